"""Photographs: taken in once, shown wherever a document names them."""

from typing import Annotated

from fastapi import APIRouter, Path, Request, Response
from pydantic import BaseModel

from inclinum.api.computing import computer_of
from inclinum.api.database import By, Database
from inclinum.photo import MEDIA, cleaned
from inclinum.store import photos

router = APIRouter(tags=["photos"])
PhotoId = Annotated[str, Path(max_length=64, pattern=r"^[0-9a-f]{64}$", description="of a picture")]


class Kept(BaseModel):
    """A picture that was taken in."""

    id: str
    width: int
    height: int
    """px."""


@router.post(
    "/photos",
    operation_id="keep_photo",
    openapi_extra={
        "requestBody": {"content": {"image/*": {"schema": {"type": "string", "format": "binary"}}}, "required": True}
    },
)
async def keep_photo(request: Request, store: Database, by: By) -> Kept:
    """Take a JPEG, PNG or WebP picture in, without what stood beside it: place, time of day, device."""
    photo = await computer_of(request).run(request, cleaned, await request.body())
    await store(photos.keep, photo, by=by)
    return Kept(id=photo.id, width=photo.width, height=photo.height)


@router.get("/photos/{photo_id}", operation_id="photo", response_class=Response)
async def photo(photo_id: PhotoId, store: Database) -> Response:
    """A picture."""
    data = await store(photos.load, photo_id)
    return Response(data, media_type=MEDIA, headers={"Cache-Control": "private, max-age=31536000, immutable"})
