"""Shade and light steps."""
