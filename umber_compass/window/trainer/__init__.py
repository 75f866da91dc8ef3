"""The trainer: drills for the eye, with results and a plot."""
