"""What menus and keys do."""
