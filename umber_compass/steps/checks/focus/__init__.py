"""Checks of what the eye meets first."""
