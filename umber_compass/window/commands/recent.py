"""The plans that were open last, in File."""

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QMenu

from umber_compass.window.desk.files import Files
from umber_compass.window.desk.recent_plans import RecentPlans
from umber_compass.window.desk.remembered import Remembered


class Recent(QObject):
    """A menu that is filled when it is opened."""

    def __init__(
        self, menu: QMenu, remembered: Remembered, plans: RecentPlans, files: Files
    ) -> None:
        super().__init__(menu)
        self._remembered, self._plans, self._files = remembered, plans, files
        self.menu = QMenu(self.tr("Recent"), menu)
        before = next((a for a in menu.actions() if a.isSeparator()), None)
        action = menu.menuAction() if before is None else menu.insertMenu(before, self.menu)
        menu.aboutToShow.connect(lambda: action.setEnabled(bool(plans.known)))
        self.menu.aboutToShow.connect(self.fill)

    def fill(self) -> None:
        """The plans that are still there, the newest first."""
        self.menu.clear()
        for path in (known.path for known in self._plans.known):
            action = self.menu.addAction(path.name)
            action.setToolTip(str(path))
            action.triggered.connect(lambda _=False, p=path: self._files.open_path(p))
        self.menu.addSeparator()
        self.menu.addAction(self.tr("Forget these")).triggered.connect(self._remembered.forget)
