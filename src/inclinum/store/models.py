"""Tables: normalised where the shop asks across jobs, documents where a job is read as a whole."""

from datetime import datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Index, String, Text, UniqueConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


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
    """A vehicle the shop has set up or seen; ``document`` is the vehicle as it now stands."""

    __tablename__ = "vehicle"
    __table_args__ = (UniqueConstraint("name", "plate"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("owner.id"))
    name: Mapped[str] = mapped_column(String(120))
    plate: Mapped[str] = mapped_column(String(30))
    wheels: Mapped[int] = mapped_column(default=4)
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(default=1)
    schema_version: Mapped[int]
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    saved_by: Mapped[str] = mapped_column(String(120), default="")

    owner: Mapped[Owner] = relationship()


class JobRow(Base):
    """A job; ``vehicle_document`` is the vehicle as it came in for it."""

    __tablename__ = "job"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    title: Mapped[str] = mapped_column(String(120))
    wheels: Mapped[int] = mapped_column(default=4)
    vehicle_id: Mapped[int] = mapped_column(ForeignKey("vehicle.id"), index=True)
    vehicle_document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    schema_version: Mapped[int]
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())

    vehicle: Mapped[VehicleRow] = relationship()
    stages: Mapped[list["StageRow"]] = relationship(cascade="all, delete-orphan")
    measurements: Mapped[list["Measurement"]] = relationship(
        cascade="all, delete-orphan", order_by="Measurement.position"
    )
    torques: Mapped[list["TorqueRow"]] = relationship(cascade="all, delete-orphan", order_by="TorqueRow.position")
    events: Mapped[list["Event"]] = relationship(cascade="all, delete-orphan", order_by="Event.id")


class StageRow(Base):
    """One stage of a job: its document without the readings and torques, which have rows of their own."""

    __tablename__ = "stage"

    job_id: Mapped[str] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(String(20), primary_key=True)
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
    text: Mapped[str] = mapped_column(String(60))
    value: Mapped[float]
    tolerance: Mapped[float | None]
    unit: Mapped[str] = mapped_column(String(20))
    done_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    done_by: Mapped[str] = mapped_column(String(120))


class Event(Base):
    """One saved change. Events without a job are the shop's own: a job imported, a job deleted."""

    __tablename__ = "event"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[str | None] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    by: Mapped[str] = mapped_column(String(120))
    what: Mapped[str] = mapped_column(Text)
