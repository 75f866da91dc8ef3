"""The demo's sketch and plan, drawn by us, and the fonts the window ships with."""
