"""Grey thumbnails: a few groups of value, and the connected areas of each."""
