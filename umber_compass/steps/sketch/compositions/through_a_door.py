"""A dark room frames what is bright beyond it."""

from umber_compass.steps.sketch.compositions.spec import WHOLE, Composition, Shape, box

COMPOSITION = Composition(
    "through-a-door",
    "Through a door",
    "dark before bright",
    (
        Shape("yard", "ground", (88, 0.06, 90), WHOLE, False),
        Shape("far house", "ground", (74, 0.06, 40), box(0.30, 0.24, 0.58, 0.58), False),
        Shape("path", "ground", (80, 0.03, 80),
              ((0.40, 0.56), (0.58, 0.56), (0.76, 0.90), (0.24, 0.90)), False),
        Shape("garden", "ground", (68, 0.11, 125),
              ((0.2, 0.58), (0.41, 0.56), (0.26, 0.90), (0.1, 0.92)), False),
        Shape("garden", "ground", (68, 0.11, 125),
              ((0.56, 0.56), (0.8, 0.58), (0.8, 0.92), (0.74, 0.90)), False),
        Shape("coat", "figure", (32, 0.11, 20),
              ((0.44, 0.46), (0.50, 0.40), (0.56, 0.46), (0.60, 0.74), (0.40, 0.74))),
        Shape("head", "focus", (58, 0.07, 55), ((0.50, 0.36), (0.035, 0.052))),
        Shape("boots", "figure", (20, 0.02, 50), box(0.455, 0.72, 0.49, 0.83), False),
        Shape("boots", "figure", (20, 0.02, 50), box(0.51, 0.72, 0.545, 0.83), False),
        Shape("room", "middle ground", (18, 0.03, 280), box(-0.01, -0.01, 0.24, 1.01), False),
        Shape("room", "middle ground", (18, 0.03, 280), box(0.76, -0.01, 1.01, 1.01), False),
        Shape("room", "middle ground", (18, 0.03, 280), box(-0.01, -0.01, 1.01, 0.13), False),
        Shape("floor", "middle ground", (26, 0.05, 50),
              ((0.24, 0.90), (0.76, 0.90), (1.01, 1.01), (-0.01, 1.01)), False),
        Shape("jamb", "middle ground", (44, 0.06, 55), box(0.22, 0.10, 0.255, 0.92), False),
        Shape("jamb", "middle ground", (44, 0.06, 55), box(0.745, 0.10, 0.78, 0.92), False),
        Shape("jamb", "middle ground", (44, 0.06, 55), box(0.22, 0.10, 0.78, 0.145), False),
    ),
)  # fmt: skip
