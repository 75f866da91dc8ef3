"""Files in and out, one format a file. Nothing else opens files."""
