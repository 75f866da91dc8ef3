"""Colours as one number each, 0x00RRGGBB, and back."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

Levels: TypeAlias = npt.NDArray[np.uint8]  # (..., 3)
Packed: TypeAlias = npt.NDArray[np.uint32]  # (h, w), 0x00RRGGBB
PackedRow: TypeAlias = npt.NDArray[np.uint32]  # (n,), the same


CLEAR = 0x01FFFFFF  # a px of a picture where nothing is painted: white, and told from white


def pack(levels: Levels) -> Packed:
    """8-bit colours, (..., 3), as 0x00RRGGBB numbers, (...)."""
    wide = levels.astype(np.uint32)
    return np.ascontiguousarray(wide[..., 0] << 16 | wide[..., 1] << 8 | wide[..., 2])


def unpack(packed: Packed) -> Levels:
    """0x00RRGGBB numbers, (...), as 8-bit colours, (..., 3): a view of a contiguous array."""
    whole = np.ascontiguousarray(packed)
    return whole.view(np.uint8).reshape(*whole.shape, 4)[..., 2::-1]
