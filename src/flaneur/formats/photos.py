"""Photographs in: opened, turned upright, made smaller, and written anew without what the camera
added.
"""

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from flaneur.core.errors import ReadingError

LONGEST_SIDE = 2000
MOST_PIXELS = 40_000_000
FORMATS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True)
class PhotoFile:
    """A photograph as it is kept: WebP bytes and its size in pixels."""

    webp: bytes
    width: int
    height: int


def read_photo(content: bytes, name: str) -> PhotoFile:
    """Re-encode a JPEG, PNG or WebP to WebP of at most 2000 pixels a side. Raises ReadingError for
    anything else.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(content), formats=FORMATS) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise ReadingError(
                        "The photograph has too many pixels.",
                        read=f"{opened.width} × {opened.height}",
                        expected="40 million at most",
                    )
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (
        UnidentifiedImageError,
        Image.DecompressionBombError,
        OSError,
        ValueError,
        SyntaxError,
        KeyError,
        EOFError,
    ) as error:
        read = f"{name}, {len(content):,} bytes"
        raise ReadingError(
            "This is no photograph that can be read.", read=read, expected="JPEG, PNG or WebP"
        ) from error
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    out = io.BytesIO()
    upright.save(out, "WEBP", quality=82)
    return PhotoFile(out.getvalue(), upright.width, upright.height)
