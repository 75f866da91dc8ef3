"""Parts that any bench may use."""
