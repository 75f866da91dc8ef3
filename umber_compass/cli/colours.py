"""Commands about colours alone."""

from argparse import Namespace
from typing import Any

import numpy as np

from umber_compass.colour.blending import MODE_NAMES, blend
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import listed_hexes
from umber_compass.colour.spaces import (
    NO_HUE_CHROMA,
    cielab,
    decode,
    encode,
    hsb,
    hue_distance,
    luminance,
    oklab,
    parse_hex,
    polar,
    to_hex,
    value,
)
from umber_compass.colour.wheels import WHEELS, angle_of, hue_at
from umber_compass.plan.model import Ramp
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.steps.harmony.schemes import SCHEMES
from umber_compass.steps.ramps.outline import outline_of
from umber_compass.steps.ramps.ramps import make_steps
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.words import Refusal, words


def colour(args: Namespace) -> dict[str, Any]:
    """Every measure of one colour."""
    encoded = parse_hex(args.hex)
    light = decode(encoded)
    lab, ok, bright = cielab(light), oklab(light), hsb(encoded)
    lightness, c, h = (float(x) for x in polar(ok))
    hued = c >= NO_HUE_CHROMA
    return {
        "hex": to_hex(encoded),
        "value": float(value(light)),
        "luminance": float(luminance(light)),
        "oklab": dict(zip("lab", map(float, ok), strict=True)),
        "oklch": {"l": lightness, "c": c, "h": h if hued else None},
        "lab": dict(zip("lab", map(float, lab), strict=True)),
        "hsb": dict(zip("hsb", map(float, bright), strict=True)),
        "angle": {
            "painter": float(angle_of("painter", h)) if hued else None,
            "light": float(angle_of("light", h)) if hued else None,
            "perceptual": h if hued else None,
        },
    }


def difference(args: Namespace) -> dict[str, Any]:
    """How far two colours lie apart; signed numbers are second minus first."""
    pair = np.array([parse_hex(args.first), parse_hex(args.second)])
    light = decode(pair)
    values, lch, lab = value(light), polar(oklab(light)), cielab(light)
    hued = bool((lch[:, 1] >= NO_HUE_CHROMA).all())
    return {
        "ciede2000": float(ciede2000(lab[0], lab[1])),
        "oklab": float(np.linalg.norm(oklab(light)[1] - oklab(light)[0])),
        "value": float(values[1] - values[0]),
        "chroma": float(lch[1, 1] - lch[0, 1]),
        "hue": float(hue_distance(lch[0, 2], lch[1, 2])) if hued else None,
    }


def mixed(args: Namespace) -> dict[str, Any]:
    """A layer over a ground."""
    return {
        "hex": to_hex(blend(args.mode, parse_hex(args.base), parse_hex(args.top), args.opacity))
    }


def harmony(args: Namespace) -> dict[str, Any]:
    """The colours of a scheme led by one colour."""
    encoded = parse_hex(args.hex)
    spec = SCHEMES[args.scheme]
    spread = spec.spread_deg if args.spread is None else args.spread
    measures = colour(args)
    c, h = measures["oklch"]["c"], measures["oklch"]["h"]
    lead = measures["angle"][args.wheel]
    slots = []
    for needle in spec.needles:
        angle = None if lead is None else (lead + needle.at(spread)) % 360
        if needle.slot == "A" or angle is None:
            shown, hue = encoded, h
        else:
            hue = float(hue_at(args.wheel, angle))
            shown = encode(fit(measures["value"], c, hue))
        slots.append(
            {
                "slot": needle.slot,
                "role": needle.part,
                "angle": angle,
                "hue": hue,
                "hex": to_hex(shown),
            }
        )
    return {"scheme": args.scheme, "wheel": args.wheel, "slots": slots}


def ramp(args: Namespace) -> dict[str, Any]:
    """The steps of one colour."""
    numbers = {r.key: r.number for r in PRACTICE.rules}
    if args.spacing is not None:
        numbers["ramp.spacing"] = args.spacing
    tint = args.to if args.to is not None else args.tint
    if tint is not None and not RECIPES[args.recipe].tints:
        known = ", ".join(r.name for r in RECIPES.values() if r.tints)
        raise Refusal(args.recipe, words("takes no second colour; these do: {known}", known=known))
    asked = Ramp(
        recipe=args.recipe,
        darker=args.darker,
        lighter=args.lighter,
        degrees=args.degrees,
        tint=None if tint is None else to_hex(parse_hex(tint)),
        picked=tuple(listed_hexes(args.picked or "")),
        dark_chroma=args.dark_chroma,
        light_chroma=args.light_chroma,
        grey_tint=args.grey_tint,
        darkest=args.darkest,
    )
    made = make_steps(to_hex(parse_hex(args.hex)), asked, numbers)
    said = {"left_out": made.left_out, "text": str(made.says)} if made.says is not None else {}
    return {
        "recipe": args.recipe,
        **said,
        "outline": outline_of(made),
        "steps": [
            {"hex": s.hex, "value": s.value, "chroma": s.chroma, "hue": s.hue} for s in made.steps
        ],
    }


CHOICES = {
    "mode": MODE_NAMES,
    "scheme": tuple(SCHEMES),
    "wheel": WHEELS,
    "recipe": tuple(r.name for r in RECIPES.values() if not r.uses_light),  # those need a plan
}
