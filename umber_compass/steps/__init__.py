"""What follows from the plan: pure functions, in the route's order."""
