"""Tables: normalised where the shop asks across jobs, documents where a job is read as a whole.

What lists show stands in columns beside the documents, written by the same save, so that a list reads no document
but for the few fields of its silhouette.
"""

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB, UUID
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from inclinum.jobfile import LONGEST_LINE

KINDS = "wheels IN (2, 4)"


class Base(DeclarativeBase):
    """Declarative base."""


class Shop(Base):
    """The one shop this database is of."""

    __tablename__ = "shop"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200))


class Person(Base):
    """Somebody who works in the shop."""

    __tablename__ = "person"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)


class Owner(Base):
    """Somebody whose vehicles come to the shop."""

    __tablename__ = "owner"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)


class VehicleRow(Base):
    """A vehicle the shop has set up or seen; ``document`` is the vehicle as it now stands.

    A plate tells one vehicle of a kind; without one, only ``uid`` does.
    """

    __tablename__ = "vehicle"
    __table_args__ = (
        CheckConstraint(KINDS, name="vehicle_kind"),
        UniqueConstraint("id", "wheels", name="vehicle_of_kind"),
        Index("vehicle_by_plate", "wheels", "name", "plate", unique=True, postgresql_where=text("plate <> ''")),
        Index("vehicle_listed", "name", "id"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    uid: Mapped[uuid.UUID] = mapped_column(UUID(), unique=True, server_default=text("gen_random_uuid()"))
    owner_id: Mapped[int] = mapped_column(ForeignKey("owner.id"))
    name: Mapped[str] = mapped_column(String(120))
    plate: Mapped[str] = mapped_column(String(30))
    wheels: Mapped[int] = mapped_column(server_default="4")
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(server_default="1")
    schema_version: Mapped[int]
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    saved_by: Mapped[str] = mapped_column(String(120), server_default="")
    description: Mapped[str] = mapped_column(Text, server_default="")
    front: Mapped[str] = mapped_column(String(200), server_default="")
    rear: Mapped[str] = mapped_column(String(200), server_default="")
    measured: Mapped[int] = mapped_column(server_default="0")
    checked: Mapped[str | None] = mapped_column(String(40))
    """With which models the document was last found readable; a trigger forgets it when another hand changes that."""
    trouble: Mapped[str | None] = mapped_column(Text)
    """Why it cannot be read, where it cannot."""

    owner: Mapped[Owner] = relationship()


class JobRow(Base):
    """A job; ``vehicle_document`` is the vehicle as it came in for it."""

    __tablename__ = "job"
    __table_args__ = (
        CheckConstraint(KINDS, name="job_kind"),
        UniqueConstraint("id", "wheels", name="job_of_kind"),
        ForeignKeyConstraint(["vehicle_id", "wheels"], ["vehicle.id", "vehicle.wheels"], name="job_vehicle_of_kind"),
        Index("job_open", "due", "title", "id", postgresql_where=text("signed_off IS NULL")),
        Index("job_finished", text("signed_off DESC"), "id", postgresql_where=text("signed_off IS NOT NULL")),
        Index("job_newest", "wheels", text("created_at DESC"), text("id DESC")),
        Index("job_by_title", "title", "id"),
        Index("job_last_saved", text("saved_at DESC"), "id"),
        Index("job_of_vehicle", "vehicle_id", text("created_at DESC"), text("id DESC")),
    )

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    title: Mapped[str] = mapped_column(String(120))
    wheels: Mapped[int] = mapped_column(server_default="4")
    vehicle_id: Mapped[int]
    vehicle_document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    schema_version: Mapped[int]
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    vehicle_name: Mapped[str] = mapped_column(String(120), server_default="")
    plate: Mapped[str] = mapped_column(String(30), server_default="")
    owner: Mapped[str] = mapped_column(String(120), server_default="")
    due: Mapped[date | None]
    front_rise: Mapped[float | None]
    rear_rise: Mapped[float | None]
    signed_off: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    begun: Mapped[int] = mapped_column(server_default="0")
    """A bit for each stage with something in it, in the order of the stages."""
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    outcome: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    """What it predicted and gave, worked out when it is first asked for and forgotten by every save."""
    outcome_by: Mapped[str | None] = mapped_column(String(40))
    checked: Mapped[str | None] = mapped_column(String(40))
    trouble: Mapped[str | None] = mapped_column(Text)


class StageRow(Base):
    """One stage of a job: its document without the readings and torques, which have rows of their own."""

    __tablename__ = "stage"
    __table_args__ = (
        ForeignKeyConstraint(["job_id", "wheels"], ["job.id", "job.wheels"], ondelete="CASCADE", name="stage_of_kind"),
    )

    job_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(String(20), primary_key=True)
    wheels: Mapped[int] = mapped_column(server_default="4")
    """Of the document; the key makes it that of the job."""
    version: Mapped[int]
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    schema_version: Mapped[int]
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    saved_by: Mapped[str] = mapped_column(String(120))


class Measurement(Base):
    """One reading of a job: at a corner, at a station, or of an angle on the rack."""

    __tablename__ = "measurement"
    __table_args__ = (Index("measurement_of_job", "job_id", "stage", "kind"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    stage: Mapped[str] = mapped_column(String(20))
    kind: Mapped[str] = mapped_column(String(20))
    position: Mapped[int]
    place: Mapped[str] = mapped_column(String(120))
    """Axle, or station."""
    side: Mapped[str] = mapped_column(String(10))
    quantity: Mapped[str] = mapped_column(String(30))
    text: Mapped[str] = mapped_column(String(60))
    value: Mapped[float]
    tolerance: Mapped[float | None]
    unit: Mapped[str] = mapped_column(String(20))


class TorqueRow(Base):
    """One torque read off a wrench."""

    __tablename__ = "torque_record"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), index=True)
    position: Mapped[int]
    fastener: Mapped[str] = mapped_column(String(120))
    axle: Mapped[str] = mapped_column(String(10))
    side: Mapped[str | None] = mapped_column(String(10))
    text: Mapped[str | None] = mapped_column(String(60))
    """With value and unit what was read; none of them where it was tightened by feel."""
    value: Mapped[float | None]
    tolerance: Mapped[float | None]
    unit: Mapped[str | None] = mapped_column(String(20))
    angle: Mapped[float | None]
    """Turned, degrees, where the wrench told it."""
    done_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    done_by: Mapped[str] = mapped_column(String(120))


class PhotoRow(Base):
    """A picture, kept once by its content; documents name it by that."""

    __tablename__ = "photo"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    width: Mapped[int]
    height: Mapped[int]
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    saved_by: Mapped[str] = mapped_column(String(120))


class Event(Base):
    """One saved change. Events without a job are the shop's own: a job imported, a job deleted."""

    __tablename__ = "event"
    __table_args__ = (
        CheckConstraint(f"char_length(what) <= {LONGEST_LINE}", name="event_can_be_read"),
        Index("event_of_job", "job_id", "id"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[str | None] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    by: Mapped[str] = mapped_column(String(120))
    what: Mapped[str] = mapped_column(Text)
    """In words, long values shortened."""
    detail: Mapped[list[dict[str, Any]] | None] = mapped_column(JSONB)
    """The same whole: path, old and new value of everything that changed."""


class BuildAct(Base):
    """An act at the machine that was done, by the id it was given there: sent again, it is not done again."""

    __tablename__ = "build_act"
    __table_args__ = (Index("build_act_of_job", "job_id"),)

    id: Mapped[uuid.UUID] = mapped_column(UUID(), primary_key=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class Binned(Base):
    """A job or a vehicle that was deleted, whole, until its days are over: each table's rows as they stood."""

    __tablename__ = "bin"
    __table_args__ = (
        CheckConstraint("what IN ('job', 'vehicle')", name="bin_of_kind"),
        Index("bin_newest", text("deleted_at DESC"), text("id DESC")),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    what: Mapped[str] = mapped_column(String(10))
    key: Mapped[str] = mapped_column(String(64))
    """Id of what was deleted."""
    title: Mapped[str] = mapped_column(String(200))
    rows: Mapped[dict[str, Any]] = mapped_column(JSONB)
    deleted_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_by: Mapped[str] = mapped_column(String(120))
