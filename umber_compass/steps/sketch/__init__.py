"""A sketch brought in: split, named, measured."""
