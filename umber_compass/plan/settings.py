"""The table of settings, one row each (setting.py says what a row is). A new setting is a new
row."""

from typing import Any

from umber_compass.plan.edits import Edit
from umber_compass.plan.setting import Field, Setting
from umber_compass.plan.terms import Use
from umber_compass.plan.uses import USES
from umber_compass.words import Words, words

LEAST_SPREAD, MOST_SPREAD = 5.0, 90.0  # wheel degrees


def _use(use: Use) -> Words:
    title = USES[use].title if use else "nothing in particular"
    return words("plan it for {use}", use=title.lower())


def _budget(most: int | None) -> Words:
    if most is None:
        return words("set no colour budget")
    return words("allow {most} colours", most=most)


_LIT = (("study.rig.on", True),)
_SIZE = (("brief.width_cm", None), ("brief.distance_cm", None))
_VERDICTS = {"kept": "keep the study", "rejected": "reject the study", "": "take a verdict back"}
_WAYS = {
    "soft": "draw light softly",
    "painter": "draw light and shade as a painter",
    "two-tones": "draw in two tones",
    "three-tones": "draw in three tones",
}
_EXPOSED = {
    "planned": "hold the planned values",
    "region": "hold the value of one region",
    "off": "hold no values",
}
_SHADING_HUE = {
    "kept": "let shading that keeps its hue",
    "cool-warm": "let shading that cools and warms",
    "rig": "let shading that follows the lamps",
    "own": "let shading that leans to colours of its own",
    "ramp": "let shading that goes through each region’s ramp",
    "gradient": "let shading that goes through one gradient",
}

# One row is one setting; the formatter would make ten lines of each.
# fmt: off
_ROWS = (
    Setting("title", "title", "title the plan {n}", "the plan’s title", line=True),
    Setting("purpose", "purpose", "say what it is for", "what the piece is for", line=True),
    Setting("budget", "budget", _budget, "how many colours the piece may use", "colours",
            Field("Colour budget", "How many colours the piece may use; over it, a check proposes"
                  " merges. 0 is any number.", " colours"), none="none"),
    Setting("brief.use", "brief.use", _use, "what the piece is for", none="none", also=_SIZE),
    Setting("brief.width", "brief.width_cm", "set the width of the piece",
            "how wide the piece will be", "cm",
            Field("Width of the piece", "How wide it is printed or shown.", " cm", 1, 1), "usual"),
    Setting("brief.distance", "brief.distance_cm", "set how far off it is seen",
            "from how far it will be seen", "cm",
            Field("Seen from", "How far the eye is from it.", " cm", 5), "usual"),
    Setting("brief.notes", "brief.notes", "note in the brief", "what else was agreed"),

    Setting("layers.light", "layers.light",
            {"pictures": "hand the light over as pictures",
             "repaintable": "hand the light over as a colour and a mask for each lamp"},
            "how the starter file’s layers hold the light: pictures, which are nearer, or one"
            " colour with a mask for each, which can be painted anew"),
    Setting("layers.clipped", "layers.clipped",
            {True: "clip the light to each material", False: "lay the light above all materials"},
            "whether the light stands in each material’s group of the starter file"),
    Setting("layers.things", "layers.things",
            {True: "gather materials by thing", False: "hand materials over one by one"},
            "whether the materials of a thing lie in a group of it; things are the light’s"),
    Setting("layers.grown", "layers.grown", "let materials go on beneath what is before by {n} px",
            "how far a material of the starter file goes on beneath what lies before it", "px",
            Field("Grown", "How far a material goes on beneath what lies before it, so that no gap"
                  " shows when one is painted anew.", " px", 1)),

    Setting("first.key", "first.key", "deal first values by {n}", "how first colours deal values"),
    Setting("first.values", "first.values", "{n} values in first colours",
            "whether first colours keep the drawing’s values: kept, order, free, or auto"),
    Setting("first.scheme", "first.scheme", "take first colours’ scheme: {n}",
            "whether first colours choose a scheme or take the one on the wheel"),
    Setting("first.skin", "first.skin", "propose {n} skin",
            "the skin tone that all first colours have"),
    Setting("first.strength", "first.strength", "propose colours of strength {n:.0%}",
            "how strong first colours are", "times the usual chroma",
            Field("Strength of first colours", "Quiet under 100 %, strong over it.", " %", 10,
                  times=100)),
    Setting("first.warm", "first.warm", "wish first colours warm",
            "how much of first colours should be warm", "of what has colour, 0-1",
            Field("Warm colours", "How much of what has colour should be warm.", " %", 10,
                  times=100), "any"),
    Setting("first.seed", "first.seed", "try others", "which of many proposals are shown"),

    Setting("study.title", "study.title", "call the study {n}", "the shown study’s title",
            line=True),
    Setting("study.note", "study.note", "note on a study", "what is written of the shown study"),
    Setting("study.verdict", "study.verdict", _VERDICTS,
            "whether the shown study is kept or rejected", none="none"),
    Setting("study.reason", "study.reason", "say why of a study",
            "why the shown study is kept or rejected", line=True),
    Setting("shading.on", "study.shading.on",
            {True: "keep your shading", False: "leave your shading out"},
            "whether the sketch’s own shading is kept"),
    Setting("shading.strength", "study.shading.strength", "set your shading to {n:.0f} %",
            "how strong it is", "% of the sketch’s",
            Field("Strength of your shading", "Softer under 100 %, stronger over it.", " %", 5)),
    Setting("shading.hue", "study.shading.hue", _SHADING_HUE, "what hue does in shade and light"),
    Setting("shading.shade-colour", "study.shading.shade_hex", "lean shade to {n}",
            "whose hue shade leans to, where shading.hue is own"),
    Setting("shading.light-colour", "study.shading.light_hex", "lean light to {n}",
            "whose hue light leans to, where shading.hue is own"),
    Setting("shading.beside", "study.shading.beside",
            {True: "shade added to the forms", False: "shade instead of forms"},
            "whether it is added to the forms, or stands for them"),

    Setting("scheme.spread", "study.scheme.spread_deg", "spread the scheme {n:.0f}°",
            "how far the hues that support or answer are spread", "° on the wheel",
            Field("Spread, wheel degrees",
                  "How far the neighbours, or the halves of a split opposite, stand apart.", "°"),
            also=(("study.scheme.chosen", True),), low=LEAST_SPREAD, high=MOST_SPREAD),
    Setting("share.SLOT", "study.scheme.shares[]", "wish {name} a share of {n:.0%}",
            "how much of the picture a slot should hold", "of the picture, 0-1",
            Field("Wished share of {s}", "How much of the picture its colours should hold.", " %",
                  times=100)),
    Setting("slot.SLOT.chroma", "study.scheme.chroma[]", "bring {name}’s chroma to {n:.0%}",
            "how strong a slot’s colours are", "times as planned",
            Field("Chroma of {s}", "How strong its colours are, of what each is planned with.",
                  " %", 5, times=100)),
    Setting("slot.SLOT.arc", "study.scheme.arcs[]", "let {name} stray by {n:.0f}°",
            "half the arc a slot’s colours may stray in", "° OKLCh",
            Field("Half arc of {s}, OKLCh degrees",
                  "How far its colours may stray from its hue, to either side.", "°"),
            also=(("study.scheme.chosen", True),)),

    Setting("region.REGION.name", "regions[].name", "name a region {n}", "its name", line=True,
            also=(("regions[].named", True),)),
    Setting("region.REGION.role", "regions[].role", "make {name} {n}",
            "what part it plays"),
    Setting("region.REGION.material", "regions[].material", "make {name} {n}",
            "what its surface is"),
    Setting("region.REGION.form", "regions[].form", "light {name} as {n}",
            "the form it is lit as", also=(("regions[].shares_form_with", None),)),
    Setting("region.REGION.front", "regions[].front", "move {name} forward or back",
            "its place from back to front, or auto", "from the back", none="auto"),
    Setting("region.REGION.recipe", "study.recipes[].recipe", "{n} steps for {name}",
            "how its steps are made"),
    Setting("region.REGION.darker", "study.recipes[].darker", "darker steps for {name}",
            "how many darker steps it has", "steps",
            Field("Darker steps", "Shade colours below the local colour.")),
    Setting("region.REGION.lighter", "study.recipes[].lighter", "lighter steps for {name}",
            "how many lighter steps it has", "steps",
            Field("Lighter steps", "Light colours above the local colour.")),
    Setting("region.REGION.degrees", "study.recipes[].degrees", "turn the steps of {name}",
            "how far a step turns, or auto for the practice’s number", "° a step",
            Field("Turn a step, degrees",
                  "How far each step’s hue turns: darker to the cool side, lighter to the warm.",
                  "°"), "auto"),

    Setting("region.REGION.tint", "study.recipes[].tint", "tint the steps of {name} {n}",
            "the colour its steps lean to, are tinted with or go to; auto for the recipe’s own",
            none="auto"),
    Setting("region.REGION.spread", "study.recipes[].spread", "space the steps of {name}: {n}",
            "whether its steps lie evenly apart, or closer in shade or in light"),
    Setting("region.REGION.same-in-grey", "study.recipes[].same_in_grey",
            {True: "keep the steps of {name} the same in grey", False: "space the steps of {name}"
             " as the eye finds them even"},
            "whether its steps have the values of straight ones"),
    Setting("region.REGION.dark-chroma", "study.recipes[].dark_chroma",
            "colour the darks of {name} by {n:.0%}",
            "how strong its shades’ colour is, times the recipe’s own", "0-2",
            Field("Chroma in darks", "How strong the colour of shades is: 100 as the recipe has it,"
                  " less for greyer darks, more for richer ones.", " %", 10, times=100)),
    Setting("region.REGION.light-chroma", "study.recipes[].light_chroma",
            "colour the lights of {name} by {n:.0%}",
            "how strong its lights’ colour is, times the recipe’s own", "0-2",
            Field("Chroma in lights", "How strong the colour of lights is: 100 as the recipe has"
                  " it, less for chalky lights, more for glowing ones.", " %", 10, times=100)),
    Setting("region.REGION.grey-tint", "study.recipes[].grey_tint", "tint greys of {name} by {n}",
            "the OKLCh chroma that the steps of a grey take, cool below and warm above", "0-0.04",
            Field("Tint of greys", "How much colour (OKLCh chroma) the steps of a grey take, cool"
                  " below and warm above; 0 keeps them grey.", "", 0.002, 3)),
    Setting("region.REGION.darkest", "study.recipes[].darkest",
            "end the shades of {name} at {n:.0f}",
            "the value L* that its shades end at, unless its own colour is darker", "L*",
            Field("Darkest", "The value L* that shades end at, unless the colour itself is darker:"
                  " 10 is never black.", " L*", 1)),
    Setting("ramps.within", "study.within_budget",
            {True: "keep all steps within the budget", False: "give every region its own steps"},
            "whether the steps of all ramps keep to the plan’s budget and share colours"),
    Setting("region.REGION.edge", "regions[].edge", "turn light to shade on {name}",
            "how softly light turns to shade on it, or auto as the way has it", "0-1",
            Field("Edge", "How softly light turns to shade on it: 0 like a crease, 100 like a"
                  " cloud.", " %", 5, times=100), "auto"),
    Setting("region.REGION.vary", "study.variations[].strength", "vary {name} by {n:.0%}",
            "how much a second and a third colour near its own vary it, in soft patches", "0-2"),
    Setting("region.REGION.vary-seed", "study.variations[].seed", "other patches for {name}",
            "where those patches lie"),

    Setting("light.on", "study.rig.on", {True: "turn the light on", False: "turn the light off"},
            "whether the picture is lit"),
    Setting("light.anchor", "study.rig.anchor", "hold the {n} to the planned value",
            "what the exposure holds to the planned values", also=_LIT),
    Setting("light.way", "study.rig.way", _WAYS, "how light and shade are drawn", also=_LIT),
    Setting("light.highlights", "study.rig.highlights",
            {True: "set highlights on what is shiny", False: "leave highlights out"},
            "whether shiny things have highlights", also=_LIT),
    Setting("light.volume", "study.rig.volume",
            {"big": "draw forms as big volumes", "medium": "keep medium forms"},
            "whether small forms are drawn together", also=_LIT),
    Setting("light.exposed", "study.rig.exposed", _EXPOSED,
            "what the exposure holds: planned values of all, of one region, or nothing", also=_LIT),
    Setting("light.exposure", "study.rig.fixed", "expose by {n:.2f}",
            "how much light is let in while nothing is held", "times",
            also=(*_LIT, ("study.rig.exposed", "off"))),
    Setting("light.held", "study.rig.held", "hold the value of one region",
            "the region whose value the exposure holds", none="none",
            also=(*_LIT, ("study.rig.exposed", "region"))),
    Setting("light.far", "study.rig.reaches_far",
            {True: "let lamps reach sky and sea", False: "keep lamps off sky and sea"},
            "whether lamps light what is far away", also=_LIT),
    Setting("shadows", "study.rig.shadows",
            {True: "let things cast shadows", False: "let nothing cast a shadow"},
            "whether the key casts shadows", also=_LIT),
    Setting("bounce", "study.rig.ambient.bounce", "throw back {n:.0%} from the ground",
            "how much the ground throws back, 1 as it would", "times",
            Field("Bounce", "How much light the ground throws back into the shade: 100 % as it"
                  " would, more to exaggerate.", " %", 10, times=100), also=_LIT),
    Setting("ambient.ground", "study.rig.ambient.ground", "colour the ground’s light {n}",
            "what colour the ground throws back; auto for the floor’s own", none="auto", also=_LIT),
    Setting("ambient.sky", "study.rig.ambient.hex", "colour the sky’s light {n}",
            "the sky’s light; another name for ambient.colour", also=_LIT),
    Setting("glow.strength", "study.rig.glow.strength", "let what glows shine at {n:.0f} %",
            "how strongly what glows lights what is near", "%", also=_LIT),
    Setting("glow.reach", "study.rig.glow.reach", "let glow reach {n:.0%} of the width",
            "how far that light reaches", "of the picture’s width, 0-1", also=_LIT),
    Setting("ambient.colour", "study.rig.ambient.hex", "colour ambient {n}",
            "the ambient light’s colour", also=_LIT),
    Setting("ambient.strength", "study.rig.ambient.strength", "set ambient to {n:.0f} %",
            "how strong the ambient light is", "%", also=_LIT),
    Setting("ambient.on", "study.rig.ambient.on",
            {True: "switch ambient on", False: "switch ambient off"},
            "whether the ambient light is on", also=_LIT),
    Setting("terminator.colour", "study.rig.terminator.hex", "colour terminator {n}",
            "the tint where light turns", also=_LIT),
    Setting("terminator.strength", "study.rig.terminator.strength",
            "set terminator to {n:.0f} %", "how strong that tint is", "%", also=_LIT),
    Setting("crevice", "study.rig.crevice", "set crevices to {n:.0f} %",
            "how much closeness takes of the ambient light", "%", also=_LIT),
    Setting("lamp.LAMP.colour", "study.rig.lamps[].hex", "colour {name} {n}",
            "the lamp’s colour", also=_LIT),
    Setting("lamp.LAMP.strength", "study.rig.lamps[].strength", "set {name} to {n:.0f} %",
            "how strong it is", "%", also=_LIT),
    Setting("lamp.LAMP.softness", "study.rig.lamps[].softness", "soften the {name} to {n:.0%}",
            "how wide its light turns to shadow", "0-1",
            Field("Softness",
                  "0 is a hard sun, 100 an overcast sky: how far light reaches round forms.",
                  " %", 5, times=100), also=_LIT),
    Setting("lamp.LAMP.rank", "study.rig.lamps[].rank", "rank {name} {n}",
            "which lamp leads: the lowest is the key", also=_LIT),
    Setting("lamp.LAMP.edge", "study.rig.lamps[].edge", "tint the edge of {name} by {n:.0f} %",
            "how strong a thin tint lies inside the border of its light", "%", also=_LIT),
    Setting("lamp.LAMP.edge-colour", "study.rig.lamps[].edge_hex", "tint the edge of {name} {n}",
            "the colour of that tint", also=_LIT),
    Setting("lamp.LAMP.x", "study.rig.lamps[].pool.x", "put {name} at {n:.0%} of the width",
            "where the middle of a spot’s light lies, from the left", "of the width, 0-1",
            also=_LIT),
    Setting("lamp.LAMP.y", "study.rig.lamps[].pool.y", "put {name} at {n:.0%} of the height",
            "where the middle of a spot’s light lies, from above", "of the height, 0-1",
            also=_LIT),
    Setting("lamp.LAMP.radius", "study.rig.lamps[].pool.radius",
            "let {name} reach {n:.0%} of the width", "how far a spot’s light reaches",
            "of the width, 0-1",
            Field("Radius", "How far the spot’s light reaches from its middle, of the picture’s"
                  " width.", " %", 2, times=100), also=_LIT),
    Setting("lamp.LAMP.fall-off", "study.rig.lamps[].pool.fall",
            "let {name} fade over {n:.0%} of its radius", "over how much of its radius it fades",
            "of the radius, 0-1",
            Field("Fall-off", "Over how much of its radius the spot’s light fades: 2 is a hard"
                  " disc, 100 fades from the middle on.", " %", 5, times=100), also=_LIT),
    Setting("lamp.LAMP.on", "study.rig.lamps[].on",
            {True: "switch {name} on", False: "switch {name} off"}, "whether it is on", also=_LIT),
)
# fmt: on
SETTINGS: dict[str, Setting] = {s.key: s for s in _ROWS}


def change_setting(key: str, value: Any, of: str = "", name: str = "") -> Edit:
    """The edit that sets a setting of the table, of a part of the plan by its id, and called so."""
    return SETTINGS[key].edit(value, of, name)
