"""A path winds from the near corner to what is far."""

from umber_compass.steps.sketch.compositions.spec import WHOLE, Composition, Shape, box

COMPOSITION = Composition(
    "winding-path",
    "Winding path",
    "the eye walks in",
    (
        Shape("sky", "ground", (80, 0.05, 60), WHOLE, False),
        Shape("far hill", "ground", (66, 0.05, 240),
              ((-0.1, 0.42), (0.2, 0.28), (0.46, 0.34), (0.72, 0.22), (1.1, 0.36), (1.1, 1.1),
               (-0.1, 1.1))),
        Shape("near hill", "middle ground", (48, 0.08, 140),
              ((-0.1, 0.56), (0.22, 0.50), (0.5, 0.42), (0.74, 0.44), (1.1, 0.52), (1.1, 1.2),
               (-0.1, 1.2))),
        Shape("path", "middle ground", (76, 0.06, 80),
              ((0.64, 0.43), (0.60, 0.50), (0.40, 0.58), (0.46, 0.68), (0.70, 0.78), (0.50, 1.06),
               (0.92, 1.06), (0.90, 0.78), (0.62, 0.67), (0.52, 0.60), (0.66, 0.51), (0.68, 0.43))),
        Shape("house", "focus", (88, 0.05, 85), box(0.60, 0.30, 0.73, 0.44), False),
        Shape("roof", "figure", (40, 0.12, 35),
              ((0.58, 0.31), (0.665, 0.21), (0.75, 0.31)), False),
        Shape("door", "focus", (30, 0.08, 250), box(0.65, 0.36, 0.685, 0.44), False),
        Shape("tree", "figure", (28, 0.07, 150),
              ((0.06, 0.46), (0.10, 0.20), (0.20, 0.12), (0.31, 0.24), (0.33, 0.44), (0.20, 0.54))),
        Shape("trunk", "figure", (20, 0.04, 50), box(0.185, 0.50, 0.222, 0.80), False),
        Shape("walker", "figure", (36, 0.13, 20),
              ((0.55, 0.72), (0.585, 0.70), (0.62, 0.72), (0.63, 0.84), (0.54, 0.84))),
        Shape("walker’s hat", "figure", (72, 0.12, 85), ((0.585, 0.685), (0.032, 0.022))),
    ),
)  # fmt: skip
