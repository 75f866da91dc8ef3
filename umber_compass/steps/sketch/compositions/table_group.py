"""Three things on a table, a triangle."""

from umber_compass.steps.sketch.compositions.spec import WHOLE, Composition, Shape, box

COMPOSITION = Composition(
    "table-group",
    "Table group",
    "three things, a triangle",
    (
        Shape("wall", "ground", (70, 0.03, 95), WHOLE, False),
        Shape("shadow side", "ground", (56, 0.03, 270),
              ((-0.01, -0.01), (0.34, -0.01), (0.20, 0.64), (-0.01, 0.64)), False),
        Shape("table", "ground", (44, 0.07, 55), box(-0.01, 0.62, 1.01, 1.01), False),
        Shape("cloth", "middle ground", (86, 0.02, 100),
              ((0.30, 0.66), (0.92, 0.64), (1.05, 0.86), (0.60, 0.94), (0.22, 0.84)), False),
        Shape("jug", "figure", (38, 0.08, 245),
              ((0.36, 0.26), (0.46, 0.26), (0.45, 0.36), (0.53, 0.50), (0.52, 0.70), (0.40, 0.74),
               (0.29, 0.70), (0.28, 0.50), (0.37, 0.36))),
        Shape("jug’s lip", "figure", (24, 0.05, 250), ((0.41, 0.265), (0.055, 0.018))),
        Shape("plums", "figure", (28, 0.10, 330), ((0.64, 0.605), (0.055, 0.070))),
        Shape("plums", "figure", (28, 0.10, 330), ((0.765, 0.600), (0.058, 0.072))),
        Shape("bowl", "figure", (62, 0.05, 200),
              ((0.55, 0.62), (0.86, 0.62), (0.81, 0.78), (0.70, 0.82), (0.60, 0.78)), False),
        Shape("lemon", "focus", (82, 0.15, 100),
              ((0.40, 0.80), (0.47, 0.75), (0.55, 0.76), (0.60, 0.81), (0.54, 0.87), (0.45, 0.87))),
    ),
)  # fmt: skip
