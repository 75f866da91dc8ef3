"""What would meet a wish: balancing, and the moves that fixes and the focus need."""
