"""What the program itself keeps, in the user's state folder, beside the plans and never in them."""

from pathlib import Path

from platformdirs import user_state_dir


def state_folder() -> Path:
    """The user's state folder of this program."""
    return Path(user_state_dir("umber-compass"))
