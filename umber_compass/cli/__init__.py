"""The command line: arguments to the core, and its answers as JSON or one line."""
