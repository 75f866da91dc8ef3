"""Focus: what the eye meets first, by how much it leads, what competes."""
