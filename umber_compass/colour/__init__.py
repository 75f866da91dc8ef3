"""Colour science: arrays in, arrays out. Knows no plan and no window."""
