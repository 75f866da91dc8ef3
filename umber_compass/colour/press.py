"""How a press prints colours: a proof through its ICC profile.

Intents are set here and nowhere else: relative colorimetric with black point compensation from the
screen to the press, as painting programs do by default; absolute from the press back to the screen,
so that the paper's own white is seen.
"""

import io
from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageCms

from umber_compass.words import Refusal, words

MOST_BYTES = 16_000_000  # more than a press's profile has
SHIPPED = Path(__file__).parent.parent / "assets" / "profiles" / "coated-offset.icc"
_CLASS, _SPACES = "prtr", ("CMYK", "RGB", "GRAY")
_KINDS = {"mntr": "a screen", "scnr": "a camera or scanner", "spac": "a colour space",
          "link": "a pair of devices", "abst": "an effect", "nmcl": "named colours"}  # fmt: skip
_BROKEN = (ImageCms.PyCMSError, OSError, ValueError, TypeError, MemoryError)

Levels = npt.NDArray[np.uint8]


class Press(NamedTuple):
    """A press, or a printer: its profile and what that calls itself."""

    title: str
    data: bytes


def press_of(data: bytes, subject: str) -> Press:
    """A press from the bytes of its ICC profile. Raises Refusal for what is damaged, too large, or
    the profile of something that does not print."""
    if len(data) > MOST_BYTES:
        raise Refusal(subject, words("is larger than any press’s profile; choose an .icc file"))
    try:
        profile = ImageCms.ImageCmsProfile(io.BytesIO(data)).profile
        kind, space = profile.device_class.strip(), profile.xcolor_space.strip()
        title = " ".join((profile.profile_description or "").split())[:60]
    except (*_BROKEN, AttributeError) as error:
        line = words("is no ICC profile, or is damaged; choose an .icc file your printer gave you")
        raise Refusal(subject, line) from error
    if kind != _CLASS or space not in _SPACES:
        line = words(
            "is the profile of {kind}; choose that of a press or a printer",
            kind=_KINDS.get(kind, "something that does not print"),
        )
        raise Refusal(subject, line)
    press = Press(title or Path(subject).stem[:60], data)
    try:
        printed(np.zeros((1, 3), np.uint8), press)
    except _BROKEN as error:
        line = words("cannot be used for a proof: a part of it is missing or damaged")
        raise Refusal(subject, line) from error
    return press


@lru_cache(maxsize=1)
def shipped() -> Press:
    """Offset on coated paper: the profile that comes with the program."""
    profile = ImageCms.ImageCmsProfile(str(SHIPPED))
    return Press(str(words("offset on coated paper")), profile.tobytes())


def printed(levels: Levels, press: Press | None = None) -> Levels:
    """Colours, (n, 3) encoded sRGB, as a press shows them on its paper, white included; None: as
    the shipped one does."""
    proof = _proof((press or shipped()).data)
    shown = ImageCms.applyTransform(Image.fromarray(np.ascontiguousarray(levels)[None]), proof)
    assert shown is not None  # it is made anew, not changed in place
    found: Levels = np.asarray(shown, np.uint8)[0]
    return found


@lru_cache(maxsize=4)
def _proof(data: bytes) -> ImageCms.ImageCmsTransform:
    screen = ImageCms.createProfile("sRGB")
    flags = ImageCms.Flags.SOFTPROOFING | ImageCms.Flags.BLACKPOINTCOMPENSATION
    return ImageCms.buildProofTransform(
        screen,
        screen,
        ImageCms.ImageCmsProfile(io.BytesIO(data)),
        "RGB",
        "RGB",
        renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
        proofRenderingIntent=ImageCms.Intent.ABSOLUTE_COLORIMETRIC,
        flags=flags,
    )
