"""Volumes large: a head, a standing figure, or loaf, bollard and crate, in the plan's light."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QCheckBox, QPushButton, QStackedWidget, QWidget

from umber_compass.picture.light import Lights
from umber_compass.steps.light.figures import FIGURES
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.light.figure_view import FigureView
from umber_compass.window.benches.light.volumes import Volumes
from umber_compass.window.widgets.rows import in_column, in_row

_PLAIN = "volumes"


class VolumePage(QWidget):
    """Shows the light alone; changes nothing of the plan."""

    chosen_figure = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.view, self.volumes = FigureView(), Volumes(most=420)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.view)
        self.stack.addWidget(self.volumes)
        self.buttons: dict[str, QPushButton] = {}
        group = QButtonGroup(self)
        titles = {**{f.name: f.title for f in FIGURES.values()}, _PLAIN: self.tr("loaf and crate")}
        for name, title in titles.items():
            button = QPushButton(title)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=name: self.choose(n))
            group.addButton(button)
            self.buttons[name] = button
        self.buttons["head"].setChecked(True)
        self.from_lamp = QCheckBox(self.tr("as the key sees it"))
        self.from_lamp.setToolTip(
            self.tr("Seen from where the key stands: what cannot be seen from there is in shadow.")
        )
        self.from_lamp.toggled.connect(self.view.see_from_lamp)
        self.says = quiet(self.tr("Drag to turn it. The light is the plan’s own."))
        in_column(
            in_row(*self.buttons.values(), 1, self.from_lamp, gap=4),
            (self.stack, 1),
            self.says,
            gap=8,
            on=self,
        )

    def choose(self, name: str) -> None:
        """Show one of them."""
        plain = name == _PLAIN
        self.stack.setCurrentWidget(self.volumes if plain else self.view)
        self.from_lamp.setEnabled(not plain)
        if not plain:
            self.view.choose(name)
        self.buttons[name].setChecked(True)
        self.chosen_figure.emit(name)

    def show_lights(self, lights: Lights, dragging: bool) -> None:
        """The light they stand in."""
        self.view.show_lights(lights, dragging)
        self.volumes.show_lights(lights, dragging)
