"""The study wall, which takes the stage's place."""
