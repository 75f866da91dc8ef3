"""Changes to how a plan's shade and light steps are made."""

from collections.abc import Sequence

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan, Ramp, ShadeOf, Shading, ShadingHue
from umber_compass.words import words

BORROWED, MOST_PICKED, MOST_STOPS = "borrowed", 12, 32
FIRST = Ramp(recipe="cool-warm")  # what every region begins with


def set_recipe(region_id: str, ramp: Ramp, name: str) -> Edit:
    """How one region's steps are made."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        return with_study(plan, replace(now, recipes={**now.recipes, region_id: ramp}))

    text = words("{recipe} steps for {name}", recipe=ramp.recipe, name=name)
    return Edit(text, change, f"ramp {region_id} {ramp.recipe}")


def borrow_ramp(region_id: str, picked: Sequence[str], name: str) -> Edit:
    """Steps that borrow the way of picked colours; with none the region keeps its recipe."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        ramp = replace(now.recipes.get(region_id, FIRST), picked=tuple(picked[:MOST_PICKED]))
        if picked:
            ramp = replace(ramp, recipe=BORROWED)
        return with_study(plan, replace(now, recipes={**now.recipes, region_id: ramp}))

    text = words("{name} borrows {n} picked colours", name=name, n=len(picked))
    return Edit(text, change, f"borrow {region_id}")


def tie_shade(region_id: str, of: str | None, step: int, name: str) -> Edit:
    """A region's colour as a step of another's ramp, which it follows from then on; with none it is
    its own again. Regions that were tied to it are free then."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        shades = {k: v for k, v in now.shades.items() if k != region_id}
        if of is not None and of != region_id and of not in shades:
            shades = {k: v for k, v in shades.items() if v.of != region_id}
            shades[region_id] = ShadeOf(of=of, step=step)
        return with_study(plan, replace(now, shades=shades))

    text = words("let {name} have its own colour", name=name)
    if of is not None:
        text = words("let {name} be a step of another’s ramp", name=name)
    return Edit(text, change, f"tie {region_id}")


def set_gradient(stops: Sequence[str]) -> Edit:
    """One gradient over the values of the artist's own shading; with no stops its hue is kept."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        shading = now.shading or Shading()
        hue: ShadingHue = "gradient" if stops else "kept"
        shading = replace(shading, stops=tuple(stops[:MOST_STOPS]), hue=hue)
        return with_study(plan, replace(now, shading=shading))

    return Edit(
        words("lay a gradient of {n} colours over values", n=len(stops)), change, "gradient"
    )


def set_region_gradient(region_id: str, stops: Sequence[str], name: str) -> Edit:
    """A gradient over the values of one region's own shading, whatever the others' follows; with no
    stops it follows them again."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        ramp = replace(now.recipes.get(region_id, FIRST), over=tuple(stops[:MOST_STOPS]))
        return with_study(plan, replace(now, recipes={**now.recipes, region_id: ramp}))

    text = words("lay a gradient of {n} colours over {name}", n=len(stops), name=name)
    return Edit(text, change, f"gradient {region_id}")


def set_all_recipes(ramp: Ramp) -> Edit:
    """The same recipe for every region; a gradient over its own shading stays each region's."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        every = {r.id: replace(ramp, over=now.recipes.get(r.id, FIRST).over) for r in plan.regions}
        return with_study(plan, replace(now, recipes=every))

    text = words("{recipe} steps for every region", recipe=ramp.recipe)
    return Edit(text, change, f"ramps {ramp.recipe}")
