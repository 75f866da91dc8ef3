"""Value over the picture."""
