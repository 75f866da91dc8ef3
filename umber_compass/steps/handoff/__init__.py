"""What the painting program gets."""
