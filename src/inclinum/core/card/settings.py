"""Settings noted before and after: collar threads, turns, teeth, arm angles, tubes above a clamp.

A change says what is read and by how much it is to move; what was read is held against that, and against the other
side.
"""

from collections.abc import Iterable, Sequence

from pydantic import Field, model_validator

from inclinum.core.document import Document, Moment
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Key, Name, Side
from inclinum.core.quantity.words import signed

NEAR = {"mm": 1.0, "°": 0.5, "turns": 0.25, "notches": 0.5}
"""How far a reading may be from what it should be before it is asked about, by unit: about what each is read to."""


class NewSetting(Document):
    """A setting as it is read, before, after, or both."""

    key: Key
    axle: AxleName
    side: Side | None = None
    before: float | None = Field(default=None, ge=-2000, le=2000)
    after: float | None = Field(default=None, ge=-2000, le=2000)

    @model_validator(mode="after")
    def _read(self) -> "NewSetting":
        if self.before is None and self.after is None:
            raise DomainError("a setting is read before, after, or both")
        return self

    @property
    def place(self) -> tuple[str, AxleName, Side | None]:
        """Which setting, and where."""
        return self.key, self.axle, self.side


class SettingRecord(NewSetting):
    """A setting that was read, by whom and when."""

    at: Moment
    by: Name


class SettingRow(Document):
    """One setting on the card: what the plan moves it by, and what was read."""

    key: str
    axle: AxleName
    side: Side | None
    steps: tuple[str, ...]
    """At which it is read: where its joint is opened, and where it is set."""
    name: str
    unit: str
    by: float
    """What the plan moves it by."""
    before: float | None = None
    after: float | None = None
    doubt: str = ""
    """Why what was read is asked about."""

    @property
    def place(self) -> tuple[str, AxleName, Side | None]:
        """Which setting, and where."""
        return self.key, self.axle, self.side


def held_against(rows: Iterable[SettingRow], read: Sequence[SettingRecord]) -> tuple[SettingRow, ...]:
    """Settings of a card with what was read of them, each held against the plan and against the other side.

    Args:
        rows: as the plan has them.
        read: what was noted.
    """
    known = {r.place: r for r in read}
    seen: dict[tuple[str, AxleName, Side | None], SettingRow] = {}
    for row in rows:
        record = known.get(row.place)
        told = {} if record is None else {"before": record.before, "after": record.after}
        seen[row.place] = row.model_copy(update=told)
    return tuple(
        row.model_copy(update={"doubt": _doubt(row, seen.get((row.key, row.axle, OTHER.get(row.side))))})
        for row in seen.values()
    )


OTHER: dict[Side | None, Side] = {"left": "right", "right": "left"}


def _doubt(row: SettingRow, across: SettingRow | None) -> str:
    near, unit = NEAR[row.unit], f"{'' if row.unit == '°' else ' '}{row.unit}"
    if row.after is None:
        return ""
    if row.before is not None:
        moved = row.after - row.before
        if abs(moved - row.by) > near:
            return f"moved by {_signed(moved)}{unit}, the plan says {_signed(row.by)}{unit}"
    elif across is not None and across.after is not None and across.by == row.by:
        # Nobody read it before: where both sides move alike, they should at least read alike.
        apart = row.after - across.after
        if abs(apart) > near:
            return f"reads {_signed(apart)}{unit} against the other side"
    return ""


def _signed(value: float) -> str:
    return signed(value, ".2f").rstrip("0").rstrip(".")
