"""A painting in progress held against the plan it follows."""
