"""The window: shows results, sends edits back. The only part that knows Qt."""
