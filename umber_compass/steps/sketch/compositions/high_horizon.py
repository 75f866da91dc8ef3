"""The ground fills the picture; what is far is a strip at its top."""

from umber_compass.steps.sketch.compositions.spec import WHOLE, Composition, Shape

COMPOSITION = Composition(
    "high-horizon",
    "High horizon",
    "much ground, little sky",
    (
        Shape("sky", "ground", (86, 0.04, 85), WHOLE, False),
        Shape(
            "far trees",
            "ground",
            (52, 0.05, 200),
            ((-0.1, 0.2), (0.1, 0.12), (0.3, 0.16), (0.5, 0.10), (0.74, 0.15), (1.1, 0.11),
             (1.1, 0.5), (-0.1, 0.5)),
        ),
        Shape(
            "meadow",
            "ground",
            (66, 0.10, 118),
            ((-0.1, 0.24), (0.3, 0.20), (0.7, 0.22), (1.1, 0.19), (1.1, 1.2), (-0.1, 1.2)),
        ),
        Shape(
            "stream",
            "middle ground",
            (72, 0.05, 225),
            ((0.78, 0.21), (0.70, 0.32), (0.52, 0.42), (0.58, 0.58), (0.36, 0.74), (0.10, 1.05),
             (0.44, 1.05), (0.56, 0.80), (0.74, 0.60), (0.66, 0.44), (0.78, 0.34), (0.83, 0.22)),
        ),
        Shape("near bank", "middle ground", (40, 0.08, 130),
              ((0.56, 1.06), (0.66, 0.82), (0.86, 0.74), (1.1, 0.70), (1.1, 1.2))),
        Shape("boulder", "figure", (46, 0.02, 260),
              ((0.13, 0.62), (0.22, 0.53), (0.33, 0.58), (0.36, 0.68), (0.24, 0.74), (0.13, 0.70))),
        Shape("otter", "focus", (30, 0.06, 50),
              ((0.19, 0.55), (0.23, 0.44), (0.30, 0.42), (0.315, 0.48), (0.29, 0.57),
               (0.24, 0.60))),
        Shape("throat", "focus", (84, 0.05, 70),
              ((0.272, 0.47), (0.300, 0.475), (0.287, 0.555), (0.262, 0.55))),
    ),
)  # fmt: skip
