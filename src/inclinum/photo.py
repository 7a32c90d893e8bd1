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
MOST_PX = 60_000_000
"""A picture of more would fill the memory when it is opened."""
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


def cleaned(data: bytes) -> Photo:
    """A picture ready to be kept.

    Args:
        data: a file as it was chosen.

    Raises:
        DomainError: it is no JPEG, PNG or WebP picture, it is damaged, or too large to be opened.
    """
    try:
        with Image.open(io.BytesIO(data), formats=TAKEN) as found:
            if found.width * found.height > MOST_PX:
                raise DomainError(
                    f"The picture has {found.width} × {found.height} points, more than can be opened here. "
                    "Take it smaller."
                )
            found.load()
            upright = ImageOps.exif_transpose(found).convert("RGBA")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        if isinstance(error, DomainError):
            raise
        raise DomainError(
            "That is no picture that can be kept: a photograph as JPEG, PNG or WebP is, and it must not be damaged."
        ) from None
    upright.thumbnail((LONGEST_PX, LONGEST_PX))
    # What is see-through would turn black.
    flat = Image.new("RGB", upright.size, "white")
    flat.paste(upright, mask=upright.getchannel("A"))
    out = io.BytesIO()
    flat.save(out, "JPEG", quality=85, optimize=True)
    return Photo(out.getvalue(), flat.width, flat.height)
