"""Checks of the harmony step."""
