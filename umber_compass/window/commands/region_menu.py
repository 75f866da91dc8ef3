"""The part of a region's menu that changes what it is: material, form, merge, split."""

from typing import get_args

from PySide6.QtCore import QCoreApplication
from PySide6.QtWidgets import QMenu

from umber_compass.plan.model import Region
from umber_compass.plan.terms import Form, Material
from umber_compass.window.commands.region_hands import RegionHands


def _tr(text: str) -> str:
    return QCoreApplication.translate("RegionMenu", text)


def add_hands(menu: QMenu, hands: RegionHands, named: Region) -> None:
    """Add what hands can do with the chosen regions."""
    materials = menu.addMenu(_tr("Its material"))
    for material in get_args(Material):
        action = materials.addAction(material)
        action.setCheckable(True)
        action.setChecked(material == named.material)
        action.triggered.connect(lambda _=False, m=material: hands.set_material(m))
    forms = menu.addMenu(_tr("Its form"))
    for form in get_args(Form):
        action = forms.addAction(form)
        action.setCheckable(True)
        action.setChecked(form == named.form)
        action.triggered.connect(lambda _=False, f=form: hands.set_form(f))
    shape = menu.addMenu(_tr("Its px"))
    several = hands.several
    for name, text, on in (
        ("merge", _tr("Merge the chosen"), several),
        ("surface", _tr("Make them one surface"), several),
        ("split-parts", _tr("Split into its parts"), not several),
        ("split-line", _tr("Split by a line …"), not several),
        ("give-part", _tr("Give a part to it …"), not several),
        ("tint-lines", _tr("Tint lines by material"), named.role == "line"),
        ("specks", _tr("Give its specks to their neighbours"), True),
    ):
        action = shape.addAction(text)
        action.setEnabled(on)
        action.triggered.connect(lambda _=False, n=name: hands.ask(n))
