"""What stands round every bench: route, stage, tray, views, checks."""
