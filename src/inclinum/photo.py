"""Photographs as they come from a phone or a camera, made into what is kept.

A picture is opened to see whether it is one, whatever its name says; turned the way it was held; made no larger than a
screen needs; and written anew, so that nothing comes along that stood beside the picture: place, time of day, device.
"""

import hashlib
import io
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from inclinum.core.document.errors import DomainError

TAKEN = ("JPEG", "PNG", "WEBP")
LONGEST_PX = 2048
"""Of the longer edge of what is kept."""
MOST_PX = {"JPEG": 120_000_000, "PNG": 25_000_000, "WEBP": 25_000_000}
"""A JPEG is opened at a fraction of its size; the others are opened whole, and more would fill the memory."""
MOST_PX_A_BYTE = {"JPEG": 600, "PNG": 1100, "WEBP": 20_000}
"""A file of fewer bytes is cut off, whatever its head says: no picture of that kind is packed more tightly."""
MEDIA = "image/jpeg"


@dataclass(frozen=True)
class Photo:
    """A picture as it is kept.

    Args:
        data: JPEG.
        width, height: px.
    """

    data: bytes
    width: int
    height: int

    @property
    def id(self) -> str:
        """Of its content: the same picture is kept once."""
        return hashlib.sha256(self.data).hexdigest()


NO_PICTURE = "That is no picture that can be kept: a photograph as JPEG, PNG or WebP is, and it must not be damaged."


def _refuse_by_its_head(found: Image.Image, size: int) -> None:
    """Refuse before anything is opened what would be too large, or cannot be whole."""
    kind = found.format or ""
    points = found.width * found.height
    if points > MOST_PX[kind]:
        raise DomainError(
            f"This picture has {points / 1e6:.0f} megapixels; a {kind} of at most {MOST_PX[kind] / 1e6:.0f} can be "
            "kept. Take it smaller, or save it as a JPEG."
        )
    if points > size * MOST_PX_A_BYTE[kind]:
        raise DomainError(NO_PICTURE)


def cleaned(data: bytes) -> Photo:
    """A picture ready to be kept.

    Args:
        data: a file as it was chosen.

    Raises:
        DomainError: it is no JPEG, PNG or WebP picture, it is damaged, or too large to be opened.
    """
    try:
        with Image.open(io.BytesIO(data), formats=TAKEN) as found:
            _refuse_by_its_head(found, len(data))
            # A JPEG is read at a fraction of its size where that is enough: quicker, and in little room.
            found.draft("RGB", (LONGEST_PX, LONGEST_PX))
            found.load()
            found.thumbnail((LONGEST_PX, LONGEST_PX), reducing_gap=2.0)
            upright = ImageOps.exif_transpose(found).convert("RGBA")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, DomainError):
            raise
        raise DomainError(NO_PICTURE) from None
    # What is see-through would turn black.
    flat = Image.new("RGB", upright.size, "white")
    flat.paste(upright, mask=upright.getchannel("A"))
    out = io.BytesIO()
    flat.save(out, "JPEG", quality=85, optimize=True)
    return Photo(out.getvalue(), flat.width, flat.height)
