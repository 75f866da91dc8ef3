"""What a hand may be dragging when the plan under it goes away."""


class Holding:
    """A part that may be held; beside the widget it is."""

    def let_go(self) -> None:
        """End a drag, if there is one, as letting go of the button would."""
        raise NotImplementedError
