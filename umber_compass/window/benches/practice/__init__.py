"""The practice's numbers, as a drawer over the bench."""
