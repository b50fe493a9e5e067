"""The shop's own settings: its name and papers, what it asks for its work."""

from __future__ import annotations

import base64
import binascii
import io

from PIL import Image
from sqlalchemy.orm import Session

from gentle_ember.core.shop import ShopFront
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.store.log import now
from gentle_ember.store.models import ShopFrontRow

LOGO_PLACES = 4_000_000
"""A logo has at most so many pixels; larger ones are no logos."""


def front(session: Session) -> ShopFront:
    """The settings; those nobody filled in as they begin."""
    row = session.get(ShopFrontRow, 1)
    return ShopFront() if row is None else ShopFront.model_validate(row.document)


def put_front(session: Session, wanted: ShopFront) -> None:
    """Keep the settings.

    Raises:
        InvalidJobError: the logo is no picture.
    """
    if wanted.logo:
        _refuse_no_logo(wanted.logo)
    document, at = wanted.model_dump(mode="json"), now()
    row = session.get(ShopFrontRow, 1)
    if row is None:
        session.add(ShopFrontRow(id=1, document=document, updated_at=at))
    else:
        row.document, row.updated_at = document, at


def _refuse_no_logo(text: str) -> None:
    try:
        with Image.open(io.BytesIO(base64.b64decode(text, validate=True))) as picture:
            if picture.format != "PNG" or picture.width * picture.height > LOGO_PLACES:
                raise ValueError
            picture.load()
    except (ValueError, OSError, binascii.Error, Image.DecompressionBombError):
        message = "The logo is a PNG picture of up to 300 kB and 4 megapixels."
        raise InvalidJobError([FieldError("logo", message)]) from None
