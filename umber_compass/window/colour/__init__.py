"""The colour field: a colour for one or several regions."""
