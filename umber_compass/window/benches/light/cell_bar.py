"""The chosen colour of the paint chart: by hand, or as the light makes it."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from umber_compass.colour.measured import measure_hex
from umber_compass.plan.light_edits import correct_chart
from umber_compass.steps.light.chart import Place, Row
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.rows import in_row
from umber_compass.words import Refusal


class CellBar(QWidget):
    """Type a hex to correct the chosen colour; it stays whatever the light does, and goes into
    chart and palettes."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._row: Row | None = None
        self._place: Place | None = None
        self.says = QLabel()
        self.hex = TextField(self.tr("Colour of the chart by hand, hex"), rests=False)
        self.hex.setMaximumWidth(84)
        self.hex.typed.connect(self._take)
        self.back = QPushButton(self.tr("As the light makes it"))
        self.back.setToolTip(self.tr("Give the correction up"))
        self.back.clicked.connect(lambda: self._correct(None))
        in_row(self.says, quiet(self.tr("by hand")), self.hex, self.back, 1, gap=8, on=self)

    def show_cell(self, row: Row | None, place: Place | None) -> None:
        """The chosen colour; none for a local colour, which the other steps change."""
        there = row.places.get(place.name) if row is not None and place is not None else None
        self._row, self._place = (row, place) if there is not None else (None, None)
        for widget in (self.hex, self.back):
            widget.setEnabled(there is not None)
        if row is None or place is None or there is None:
            self.says.setText(self.tr("Click a colour to correct it"))
            self.hex.fill(Of(), "")
            return
        self.says.setText(self.tr("{name}, {place}").format(name=row.name, place=place.title))
        self.hex.fill(Of(thing=f"{row.region} {place.name}"), there.hex)
        self.back.setEnabled(place.name in row.by_hand)

    def _take(self, of: Of, text: str) -> None:
        """A hex was typed; what is none is put back."""
        if self._row is None or self._place is None:
            return
        now = self._row.places[self._place.name].hex
        try:
            typed = measure_hex(text).hex
        except Refusal:
            typed = now
        self.hex.setText(typed)
        if typed != now:
            self._correct(typed)

    def _correct(self, hex_: str | None) -> None:
        if self._row is not None and self._place is not None:
            edit = correct_chart(self._row.region, self._place.name, hex_, self._row.name)
            self.edit_wanted.emit(edit)
