"""What every bench is, and what it is joined to."""
