"""Photographs in: opened, turned upright, made smaller, and written anew without what the camera
added.
"""

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from flaneur.core.errors import ReadingError

LONGEST_SIDE, PAPER_SIDE, PAPER_QUALITY = 2000, 480, 72
MOST_PIXELS = 40_000_000
FORMATS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True)
class PhotoFile:
    """A photograph as it is kept: WebP bytes and its size in pixels; ``small``: as paper takes it,
    JPEG.
    """

    webp: bytes
    small: bytes
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
    return PhotoFile(out.getvalue(), small_jpeg(upright), upright.width, upright.height)


def small_jpeg(image: Image.Image) -> bytes:
    """A picture as small as paper needs it."""
    small = image.copy()
    small.thumbnail((PAPER_SIDE, PAPER_SIDE))
    out = io.BytesIO()
    small.save(out, "JPEG", quality=PAPER_QUALITY)
    return out.getvalue()


def small_of(webp: bytes) -> bytes:
    """The same of a photograph that is kept."""
    return small_jpeg(Image.open(io.BytesIO(webp)).convert("RGB"))
