"""What is seen without a plan."""
