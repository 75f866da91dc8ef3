"""What lies on the desk, and the work done for it."""
