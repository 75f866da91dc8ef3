"""What no archive that is opened here may hold."""


def points_outside(name: str) -> bool:
    """Whether an entry's name leads out of its archive."""
    path = name.replace("\\", "/")
    return path.startswith("/") or ".." in path.split("/") or ":" in path
