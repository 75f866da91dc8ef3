"""The pages of docs/ in a window of their own, the keys, and what this program is made of."""

import platform
from collections.abc import Iterable
from importlib import metadata
from pathlib import Path

from PySide6.QtCore import Qt, QUrl, qVersion
from PySide6.QtGui import QImage, QKeySequence, QTextCursor, QTextDocument
from PySide6.QtWidgets import QListWidget, QSplitter, QTextBrowser, QWidget

import umber_compass
from umber_compass.formats import atomic
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.actions import Action
from umber_compass.window.widgets.rows import in_row
from umber_compass.words import words

_INSIDE = Path(umber_compass.__file__).parent
# Beside the package in a checkout, in it where it was installed.
FOLDER = _INSIDE / "docs" if (_INSIDE / "docs").is_dir() else _INSIDE.parent / "docs"
PAGES = {
    "sketch": "Sketch",
    "harmony": "Harmony",
    "palette": "Palettes",
    "values": "Values",
    "focus": "Focus",
    "studies": "Studies",
    "first-colours": "First colours",
    "light": "Light",
    "ramps": "Ramps",
    "handoff": "Hand-off",
    "painting": "Beside the painting",
    "checks": "Checks",
    "glossary": "Glossary",
    "practices": "Practices",
    "keeping": "What is kept for you",
    "plan-format": "The plan file",
    "engine": "How fast it is",
}
KEYS, ABOUT = "keys", "about"
_TITLES = PAGES | {KEYS: "Keyboard shortcuts", ABOUT: "About"}
_MOST_PAGE = 1_000_000  # bytes
_PICTURE_PX = 600  # across
_LIBRARIES = (
    "PySide6-Essentials",
    "numpy",
    "scipy",
    "pillow",
    "msgspec",
    "platformdirs",
    "jeepney",
)
_HANDS = (
    ("Wheel, or pinch", "zoom round the pointer"),
    ("Middle button, or Space and drag", "move the picture"),
    ("Hold B; O", "the picture before the last change; as it was opened"),
    ("Hold F; L; A; K", "the flat colours; lights off; ambient only; key only"),
    ("E; Shift+E", "focus on what is pointed at, or chosen; on the place pointed at"),
    ("Hold W", "value, hue, chroma and detail taken away in turn"),
    ("Drag across a chosen card; comma, full stop", "turn its hues"),
    ("Ctrl and a click, Space; Return", "choose more studies; make one current"),
    ("Esc", "back from the picture alone"),
    ("Arrow keys", "step what has the focus; with Shift further"),
)


class Help(QWidget):
    """Pages on the left, the one that is open on the right; links lead from page to page."""

    def __init__(self, actions: Iterable[Action], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowFlag(self.windowFlags().Window)
        self.setWindowTitle(self.tr("Help"))
        self.resize(860, 640)
        self._actions = list(actions)
        self.pages, self.text = QListWidget(), QTextBrowser()
        self.pages.setAccessibleName(self.tr("Pages"))
        self.text.setAccessibleName(self.tr("Page"))
        self.text.setOpenLinks(False)
        for title in _TITLES.values():
            self.pages.addItem(self.tr(title))
        self.pages.currentRowChanged.connect(lambda row: self._show(list(_TITLES)[row]))
        self.text.anchorClicked.connect(self._follow)
        halves = QSplitter()
        halves.addWidget(self.pages)
        halves.addWidget(self.text)
        halves.setSizes([170, 690])
        in_row(halves, margins=(12, 12, 12, 12), on=self)

    def open(self, page: str, part: str = "") -> None:
        """Bring a page to sight, at the heading of a part where it has one."""
        self.setStyleSheet(theme.sheet())
        self.setPalette(theme.palette())
        self.setAutoFillBackground(True)
        self.pages.setCurrentRow(list(_TITLES).index(page))
        self._show(page)
        self.show()
        self._bring(part)
        self.raise_()
        self.activateWindow()

    def _show(self, page: str) -> None:
        if page == KEYS:
            self.text.setMarkdown(self._keys())
        elif page == ABOUT:
            self.text.setMarkdown(_about())
        else:
            self.text.document().setBaseUrl(QUrl.fromLocalFile(f"{FOLDER}/"))
            self.text.setMarkdown(_page(page))
        document = self.text.document()
        document.setDocumentMargin(14)
        whole = QTextCursor(document)
        whole.beginEditBlock()  # so that the page is laid out once, and not for every paragraph
        block = document.begin()
        while block.isValid():  # Markdown comes without room between its paragraphs
            form = block.blockFormat()
            form.setBottomMargin(3 if block.textList() else 8)
            form.setTopMargin(14 if form.headingLevel() else 0)
            QTextCursor(block).setBlockFormat(form)
            block = block.next()
        whole.endEditBlock()
        self._fit_pictures()
        self.text.verticalScrollBar().setValue(0)

    def _fit_pictures(self) -> None:
        """Pictures as wide as the page."""
        document, found = self.text.document(), []
        block = document.begin()
        while block.isValid():
            parts = block.begin()
            while not parts.atEnd():
                part = parts.fragment()
                if part.isValid() and part.charFormat().isImageFormat():
                    found.append((part.position(), part.charFormat().toImageFormat()))
                parts += 1
            block = block.next()
        for at, form in found:
            self._add_picture(form.name())
            form.setWidth(_PICTURE_PX)
            cursor = QTextCursor(document)
            cursor.setPosition(at)
            cursor.setPosition(at + 1, QTextCursor.MoveMode.KeepAnchor)
            cursor.setCharFormat(form)

    def _add_picture(self, name: str) -> None:
        """A picture made as small as it is shown: a page would shrink it coarsely."""
        ratio = self.devicePixelRatioF()
        image = QImage(str(FOLDER / name)).scaledToWidth(
            round(_PICTURE_PX * ratio), Qt.TransformationMode.SmoothTransformation
        )
        image.setDevicePixelRatio(ratio)
        kind = QTextDocument.ResourceType.ImageResource.value
        self.text.document().addResource(kind, QUrl(name), image)

    def _bring(self, part: str) -> None:
        """Scroll to a heading."""
        block = self.text.document().begin()
        while part and block.isValid():
            if block.blockFormat().headingLevel() and block.text() == part:
                layout = self.text.document().documentLayout()
                top = layout.blockBoundingRect(block).top()
                self.text.verticalScrollBar().setValue(round(top))
                return
            block = block.next()

    def _follow(self, link: QUrl) -> None:
        """A link to another page, or to a place in this one."""
        name = Path(link.path()).stem
        if name in PAGES:
            self.pages.setCurrentRow(list(_TITLES).index(name))
        elif link.hasFragment():
            self.text.scrollToAnchor(link.fragment())

    def _keys(self) -> str:
        """Every action with a key, by its menu, and what hands do."""
        lines = ["# Keyboard shortcuts"]
        keyed = [a for a in self._actions if a.keys]
        for menu in dict.fromkeys(a.found_in[0].menu for a in keyed):
            rows = [a for a in keyed if a.found_in[0].menu == menu]
            if rows:
                lines += ["", f"## {menu}", "", "| key | |", "|---|---|"]
            for action in rows:
                native = QKeySequence(action.keys).toString(QKeySequence.SequenceFormat.NativeText)
                lines.append(f"| {native} | {action.text} |")
        lines += ["", "## On the picture and on instruments", "", "| | |", "|---|---|"]
        lines += [f"| {hand} | {does} |" for hand, does in _HANDS]
        return "\n".join(lines)


def _page(name: str) -> str:
    """A page of docs/ as it stands; its tables and code as they are."""
    path = FOLDER / f"{name}.md"
    if not path.is_file():
        return str(words("This copy of the program came without the page {name}.", name=name))
    return atomic.read(path, _MOST_PAGE).decode("utf-8", "replace")


def _about() -> str:
    """Version, licences, and what it runs on."""
    made_of = ", ".join(f"{name} {_version(name)}" for name in _LIBRARIES)
    return "\n\n".join(
        (
            f"# Umber Compass {umber_compass.__version__}",
            "Plan a picture's colours before you render it.",
            "The program is under the MIT licence. The type is Source Sans 3, under the SIL Open "
            "Font License 1.1; the icons and the demo are our own.",
            f"It runs on Python {platform.python_version()}, Qt {qVersion()}, {made_of}.",
            "Nothing you do here leaves this machine.",
            "Colour work is close work: take real breaks, rest your hand, look at a picture again "
            "another day. If your eyes or wrists hurt, stop and ask someone who knows.",
        )
    )


def _version(name: str) -> str:
    try:
        return metadata.version(name)
    except metadata.PackageNotFoundError:
        return ""
