"""Checks of the values step."""
