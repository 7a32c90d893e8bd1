"""Settings of a change side by side: every hole of a mount, the nearest pairs of teeth, with what each would do."""

import math

import numpy as np

from inclinum.core.car.changes import AnyChange, Change, PlannedChange
from inclinum.core.car.limits.damper_closed import WANTED_MM, length_at_solid_stop
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood, rises, stand_changed
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName


class TriedSetting(Document):
    """One row: what it is, what it does, and the change as it would be."""

    name: str
    cells: tuple[str, ...]
    change: AnyChange | None
    """None where it cannot be."""
    best: bool
    now: bool


class SettingTable(Document):
    """All settings of one change."""

    columns: tuple[str, ...]
    rows: tuple[TriedSetting, ...]
    note: str
    """What the marked row is best by."""


NEAREST = 7
"""Pairs of teeth shown around what is wanted."""


def setting_tables(
    job_changes: tuple[PlannedChange, ...], before: Stood, after: Stood, aims: dict[AxleName, float | None]
) -> dict[str, SettingTable]:
    """Id of a change → its settings, for those that have a list of them and are on.

    Args:
        job_changes: the stack.
        before, after: the vehicle as found and as planned.
        aims: rise wanted of each end, mm; None where none is.
    """
    found = {}
    for planned in job_changes:
        change = planned.change
        if not planned.on:
            continue
        if every := change.settings():
            found[planned.id] = _stood(job_changes, planned, every, before, after)
        elif change.settings_near(None):
            found[planned.id] = _by_rise(job_changes, planned, before, aims[change.axle])
    return found


def _with(stack: tuple[PlannedChange, ...], planned: PlannedChange, change: Change) -> tuple[PlannedChange, ...]:
    swapped = planned.model_copy(update={"change": change})
    return tuple(swapped if p.id == planned.id else p for p in stack)


def _stood(
    stack: tuple[PlannedChange, ...], planned: PlannedChange, every: tuple[Change, ...], before: Stood, after: Stood
) -> SettingTable:
    """Every setting stood on its own: what a mount does to damper and travel."""
    rows, kept = [], []
    for change in every:
        name = planned.change.axle
        try:
            stance = stand_changed(before, _with(stack, planned, change), after).axle(name)
        except DomainError as no:
            rows.append(
                TriedSetting(name=change.setting, cells=("", "", "", "", str(no)), change=None, best=False, now=False)
            )
            continue
        left = length_at_solid_stop(stance.axle, stance) - stance.axle.damper.closed_mm
        if left >= WANTED_MM:
            kept.append((change.height_of_setting, change.setting))
        rows.append(
            TriedSetting(
                name=change.setting,
                cells=(
                    _figure(left, 0), f"{stance.travel - stance.full_droop:.0f}",
                    f"{float(stance.ride.damper_length.ratio(stance.travel)):.2f}", f"{_tilt(stance):.0f}",
                    "the stop" if left >= 0 else "the damper",
                ),
                change=change,  # type: ignore[arg-type]
                best=False,
                now=change == planned.change,
            )
        )  # fmt: skip
    best = max(kept)[1] if kept else None
    return SettingTable(
        columns=("stroke left, stop solid, mm", "droop, mm", "ratio", "tilt, °", "ends the travel"),
        rows=tuple(r.model_copy(update={"best": r.name == best}) for r in rows),
        note=f"Marked: the highest at which the stop still lands {WANTED_MM:g} mm before the damper closes."
        if kept
        else "None is marked: in every one the damper closes before the stop is solid. A taller stop, a shorter "
        "damper, or "
        "its other mount moved by as much.",
    )


def _figure(value: float, digits: int, *, signed: bool = False) -> str:
    """As the screen writes numbers: a true minus, and no minus before a nought."""
    value = round(float(value), digits) + 0.0
    return f"{value:{'+' if signed and value else ''}.{digits}f}".replace("-", "−")


def _tilt(stance: Stance) -> float:
    """Lean of the damper from vertical at ride height, degrees."""
    corner = stance.corner
    assert corner.damper is not None, "an axle has a damper"
    poses = corner.sweep(np.array([stance.travel])).poses
    start, end = (corner.place(n, poses)[0][0] for n in (corner.damper.start, corner.damper.end))
    line = start - end
    return math.degrees(math.acos(abs(line[2]) / float(np.linalg.norm(line))))


def _by_rise(
    stack: tuple[PlannedChange, ...], planned: PlannedChange, before: Stood, wanted: float | None
) -> SettingTable:
    """The settings whose rise is nearest to what is wanted, in order."""
    name, change = planned.change.axle, planned.change
    coarse = change.settings_near(None)
    lifts = rises(before, [_with(stack, planned, c) for c in coarse], name)
    good = np.isfinite(lifts)
    aim = wanted if wanted is not None else float(rises(before, [stack], name)[0])
    sizes = np.array([c.size for c in coarse])[good]
    order = np.argsort(lifts[good])
    size = float(np.interp(aim, lifts[good][order], sizes[order])) if good.sum() > 1 else change.size
    near = sorted(change.settings_near(size)[:NEAREST], key=lambda c: c.size)
    there = rises(before, [_with(stack, planned, c) for c in near], name)
    best = int(np.nanargmin(np.abs(there - aim))) if np.isfinite(there).any() else -1
    rows = [
        TriedSetting(
            name=c.setting,
            cells=(_figure(c.size, 2, signed=True), "–" if np.isnan(lift) else _figure(lift, 1, signed=True)),
            change=None if np.isnan(lift) else c,  # type: ignore[arg-type]
            best=n == best,
            now=c.setting == change.setting,
        )
        for n, (c, lift) in enumerate(zip(near, there, strict=True))
    ]
    said = "what the brief wants" if wanted is not None else "what is set now"
    return SettingTable(
        columns=("free angle, °", "rise, mm"), rows=tuple(rows), note=f"Marked: nearest to {said}, {aim:+.1f} mm."
    )
