"""A swatch that is carried by hand."""

SWATCH_MIME = "application/x-umber-swatch"
