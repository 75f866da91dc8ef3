"""What the artist decided: frozen records, the edits that change them, the history."""
