"""Photos made smaller and stripped of what they say of place and device."""

from __future__ import annotations

import io
import warnings
from typing import Final

_MOST_BYTES: Final = 12_000_000
_MOST_PIXELS: Final = 60_000_000
_LONGEST: Final = 1600


class NotAPicture(ValueError):
    """The file is no photo that can be kept; `str()` says why."""


def smaller(body: bytes) -> bytes:
    """A JPEG of at most 1600 pixels a side, turned upright, without metadata. Raises NotAPicture."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(body) > _MOST_BYTES:
        raise NotAPicture("A photo may have 12 MB.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            with Image.open(io.BytesIO(body), formats=("JPEG", "PNG", "WEBP")) as picture:
                if picture.width * picture.height > _MOST_PIXELS:
                    raise NotAPicture("A photo may have 60 million pixels.")
                picture.draft("RGB", (2 * _LONGEST, 2 * _LONGEST))
                plain = ImageOps.exif_transpose(picture).convert("RGB")
    except NotAPicture:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Warning, Image.DecompressionBombError) as error:
        raise NotAPicture("This file is no photo: JPEG, PNG and WebP can be read.") from error
    plain.thumbnail((_LONGEST, _LONGEST))
    clean = Image.new("RGB", plain.size)
    clean.paste(plain)
    found = io.BytesIO()
    clean.save(found, "JPEG", quality=82, optimize=True)
    return found.getvalue()
