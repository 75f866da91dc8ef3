"""The field of a setting that is a number: its words, range and edit come from the table."""

from PySide6.QtCore import QCoreApplication, Signal

from umber_compass.plan.settings import SETTINGS
from umber_compass.window.widgets.fields import NumberField, Of


def _tr(text: str) -> str:
    return QCoreApplication.translate("Settings", text) if text else ""


class SettingField(NumberField):
    """Shows one setting of a part of the plan; says which edit is wanted. Nought stands for none
    where the setting may have no number of its own."""

    asked = Signal(object)  # Edit

    def __init__(self, key: str, of: str = "") -> None:
        self._row = SETTINGS[key]
        kind, field = self._row.kind, self._row.field
        assert field is not None and kind.low is not None and kind.high is not None
        low = 0.0 if kind.type == "whole" else kind.low
        super().__init__(
            _tr(field.title).format(s=of),
            low * field.times,
            kind.high * field.times,
            _tr(field.unit),
            field.step,
            field.places,
            _tr(field.says),
        )
        self._times, self._part = field.times, (of, of)
        self.wanted.connect(self._ask)

    def show_setting(self, number: float, of: Of = Of(), name: str = "") -> None:  # noqa: B008 - it is frozen
        """Show what the setting is, of a part of the plan called so."""
        if of.thing:
            self._part = of.thing, name or of.thing
        self.show_number(number * self._times, of)

    def _ask(self, shown: float) -> None:
        value = shown / self._times
        none = self._row.none and not shown
        self.asked.emit(self._row.edit(None if none else value, *self._part))
