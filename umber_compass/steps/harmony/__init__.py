"""The scheme and the colours that follow from it."""
