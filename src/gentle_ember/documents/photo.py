"""Photos as they come from a phone: checked by content, turned upright, made small, stripped."""

from __future__ import annotations

import io
import warnings

from PIL import Image, ImageOps, UnidentifiedImageError

LONGEST_SIDE = 1600
MOST_PIXELS = 120_000_000
TAKEN = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")


class PhotoError(ValueError):
    """A file that is not a whole photo; the message says why."""


def prepare(content: bytes, name: str) -> bytes:
    """A photo as JPEG, upright, at most 1,600 pixels long, without location or other metadata.

    Raises:
        PhotoError: empty, not a picture whatever its name says, damaged, or far too large.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(content), formats=TAKEN) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise PhotoError(f"“{name}” has more pixels than any camera takes.")
                opened.load()
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except UnidentifiedImageError:
        raise PhotoError(
            f"“{name}” is not a picture, despite its name. Nothing was kept."
        ) from None
    except (Image.DecompressionBombError, Image.DecompressionBombWarning):
        raise PhotoError(f"“{name}” has more pixels than any camera takes.") from None
    except (OSError, SyntaxError, ValueError) as error:
        if isinstance(error, PhotoError):
            raise
        raise PhotoError(f"“{name}” is damaged: it can't be read to its end.") from None
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    out = io.BytesIO()
    clean.save(out, "JPEG", quality=85, optimize=True)
    return out.getvalue()
