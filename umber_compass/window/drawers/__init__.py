"""What goes with every step, as drawers over the bench: one file each, listed in layout."""
