"""The story strip: several plans of one book in a row."""
