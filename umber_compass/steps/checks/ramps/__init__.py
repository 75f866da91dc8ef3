"""Checks of ramps."""
