"""First colours: proposals made of nothing but a drawing (docs/first-colours.md)."""
