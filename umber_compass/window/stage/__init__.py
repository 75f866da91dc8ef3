"""The picture, large, with the step's marks on it."""
