"""Commands for the desktop the program runs on: put it into the menu, and show plans as small
pictures."""

import io
from argparse import Namespace
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from PIL import Image

from umber_compass.document import desktop_home
from umber_compass.formats import picture, thumbnail
from umber_compass.words import Refusal, words


def install(args: Namespace) -> dict[str, Any]:
    """Put the program into the user's menu, or take it away again."""
    if not args.user and not args.remove:
        line = words("writes nothing without a word: say --user, or --remove to take it away")
        raise Refusal("install", line)
    done = desktop_home.remove() if args.remove else desktop_home.install()
    what = "removed" if args.remove else "written"
    return {what: [str(p) for p in done.files], "refreshed": list(done.refreshed)}


def small_picture(args: Namespace) -> dict[str, Any]:
    """A plan's own small picture, no larger than asked for, as PNG."""
    path = _path(args.plan)
    data = thumbnail.read(path)
    if not data:
        raise Refusal(str(path), words("holds no small picture; is it a plan? save it anew"))
    try:
        with Image.open(io.BytesIO(data), formats=["PNG"]) as held:
            image = held.convert("RGBA" if "A" in held.getbands() else "RGB")
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise Refusal(str(path), words("has a damaged small picture; save it anew")) from error
    image.thumbnail((args.size, args.size), Image.Resampling.BOX)
    picture.write_image(Path(args.output), image)
    return {"file": args.output, "size": list(image.size)}


def _path(given: str) -> Path:
    """A path, or what a file: address means. Raises Refusal for another address."""
    parts = urlsplit(given)
    if parts.scheme == "file":
        return Path(unquote(parts.path))
    if parts.scheme and "://" in given:
        raise Refusal(given[:80], words("is no file of this machine; give a path"))
    return Path(given)
