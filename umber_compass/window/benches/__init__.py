"""One bench a step, under the step's name."""
