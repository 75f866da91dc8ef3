"""Umber Compass plans a picture's colours before it is rendered."""

__version__ = "0.15.0"
