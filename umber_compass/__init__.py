"""Umber Compass plans a picture's colours before it is rendered."""

__version__ = "0.17.0"
DESKTOP_ID = "org.umbercompass.umbercompass"  # by which a desktop knows its entry and windows
