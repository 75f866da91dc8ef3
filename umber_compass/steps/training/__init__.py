"""Drills for the eye: what is asked, how it is judged, how hard the next one is."""
