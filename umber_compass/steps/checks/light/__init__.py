"""Checks of the light step."""
