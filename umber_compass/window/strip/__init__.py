"""The small views."""
