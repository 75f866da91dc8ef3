"""Colour versions of a plan: grown by rule, told apart, compared in numbers."""
