"""Pictures in the database, by their content."""

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session

from inclinum.photo import Photo
from inclinum.store.errors import Missing
from inclinum.store.models import PhotoRow


def keep(session: Session, photo: Photo, by: str) -> None:
    """Keep a picture; one that is there already stays as it is."""
    row = upsert(PhotoRow).values(
        id=photo.id, data=photo.data, width=photo.width, height=photo.height, saved_by=by
    )  # fmt: skip
    session.execute(row.on_conflict_do_nothing())


def load(session: Session, photo_id: str) -> bytes:
    """A picture's bytes.

    Raises:
        Missing: it is not here.
    """
    data = session.scalar(select(PhotoRow.data).where(PhotoRow.id == photo_id))
    if data is None:
        raise Missing("This picture is not in this shop's database: a job file names pictures, a backup brings them.")
    return data
