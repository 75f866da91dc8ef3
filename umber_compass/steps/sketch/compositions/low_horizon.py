"""A wide sky over low water, one upright thing off the middle."""

from umber_compass.steps.sketch.compositions.spec import WHOLE, Composition, Shape, box

COMPOSITION = Composition(
    "low-horizon",
    "Low horizon",
    "much sky, one upright",
    (
        Shape("sky", "ground", (82, 0.04, 230), WHOLE, False),
        Shape(
            "far cloud",
            "ground",
            (90, 0.02, 80),
            ((0.02, 0.30), (0.16, 0.20), (0.30, 0.23), (0.44, 0.27), (0.52, 0.33), (0.26, 0.35)),
        ),
        Shape(
            "near cloud",
            "ground",
            (74, 0.03, 250),
            ((0.50, 0.14), (0.68, 0.07), (0.86, 0.10), (1.05, 0.16), (0.92, 0.22), (0.66, 0.20)),
        ),
        Shape(
            "hills",
            "middle ground",
            (58, 0.05, 190),
            (
                (-0.1, 0.80),
                (0.12, 0.70),
                (0.34, 0.74),
                (0.6, 0.69),
                (0.84, 0.75),
                (1.1, 0.70),
                (1.1, 1.1),
                (-0.1, 1.1),
            ),
        ),
        Shape(
            "water",
            "ground",
            (60, 0.06, 215),
            (
                (-0.1, 0.82),
                (0.2, 0.79),
                (0.5, 0.81),
                (0.8, 0.79),
                (1.1, 0.82),
                (1.1, 1.2),
                (-0.1, 1.2),
            ),
        ),
        Shape("mast", "figure", (24, 0.03, 50), box(0.655, 0.36, 0.675, 0.84), False),
        Shape(
            "sail",
            "focus",
            (88, 0.11, 75),
            ((0.685, 0.40), (0.80, 0.70), (0.685, 0.76)),
            False,
        ),
        Shape(
            "hull",
            "figure",
            (36, 0.12, 30),
            ((0.54, 0.79), (0.80, 0.79), (0.75, 0.87), (0.60, 0.87)),
            False,
        ),
        Shape(
            "grass",
            "figure",
            (30, 0.07, 135),
            ((-0.1, 0.93), (0.15, 0.89), (0.32, 0.94), (0.55, 0.97), (0.6, 1.1), (-0.1, 1.2)),
        ),
    ),
)
