"""Photos as they come from a phone: checked by content, turned upright, made small, stripped."""

from __future__ import annotations

import io
from threading import Lock

from PIL import Image, ImageOps, UnidentifiedImageError

LONGEST_SIDE = 1600
MOST_PIXELS = {True: 260_000_000, False: 60_000_000}
"""Of a JPEG, as phones take them, and of any other picture, which is read whole [1]."""
_one_at_a_time = Lock()
"""Pictures unpack to a hundred times their size: one is read at a time, the next one waits."""
Image.MAX_IMAGE_PIXELS = None  # held by MOST_PIXELS, before anything is unpacked
TAKEN = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")


class PhotoError(ValueError):
    """A file that is not a whole photo; the message says why."""


def prepare(content: bytes, name: str) -> bytes:
    """A photo as JPEG, upright, at most 1,600 pixels long, without location or other metadata.

    Raises:
        PhotoError: empty, not a picture whatever its name says, damaged, or far too large.
    """
    try:
        with _one_at_a_time, Image.open(io.BytesIO(content), formats=TAKEN) as opened:
            if opened.width * opened.height > MOST_PIXELS[opened.format == "JPEG"]:
                raise PhotoError(f"“{name}” has more pixels than any camera takes.")
            # A JPEG is read at a fraction of its size, so that the largest takes little memory.
            opened.draft("RGB", (2 * LONGEST_SIDE, 2 * LONGEST_SIDE))
            opened.load()
            opened.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except UnidentifiedImageError:
        raise PhotoError(
            f"“{name}” is not a picture, despite its name. Nothing was kept."
        ) from None
    except (OSError, SyntaxError, ValueError) as error:
        if isinstance(error, PhotoError):
            raise
        raise PhotoError(f"“{name}” is damaged: it can't be read to its end.") from None
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    out = io.BytesIO()
    clean.save(out, "JPEG", quality=85, optimize=True)
    return out.getvalue()
