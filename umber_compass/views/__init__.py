"""Ways of seeing the same picture: plain arrays in, plain arrays out. One file each."""

from umber_compass.views import grey, mirrored, small, squint
from umber_compass.views.spec import ViewSpec

VIEWS: dict[str, ViewSpec] = {m.VIEW.name: m.VIEW for m in (grey, squint, mirrored, small)}

__all__ = ["VIEWS", "ViewSpec"]
