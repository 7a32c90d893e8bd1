"""Settings of a change side by side: holes, pairs of teeth, turns of a collar, springs of the shelf; what each does."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from inclinum.core.car.changes import AnyChange, Change, PlannedChange
from inclinum.core.car.job import SpringOnShelf
from inclinum.core.car.limits.damper_closed import WANTED_MM, length_at_solid_stop
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood, rises, stand_changed
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.quantity.words import signed
from inclinum.core.springs import bind_margin_wanted


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
Stack = tuple[PlannedChange, ...]


def setting_tables(
    job_changes: Stack, before: Stood, after: Stood, aims: dict[AxleName, float | None],
    shelf: Sequence[SpringOnShelf] = (),
) -> dict[str, SettingTable]:  # fmt: skip
    """Id of a change → its settings, for those that have a list of them and are on.

    Args:
        job_changes: the stack.
        before, after: the vehicle as found and as planned.
        aims: rise wanted of each end, mm; None where none is.
        shelf: springs that could be in a spring change's place.
    """
    found = {}
    for planned in job_changes:
        change = planned.change
        if not planned.on:
            continue
        wanted = aims[change.axle]
        if every := change.settings():
            found[planned.id] = _stood(job_changes, planned, every, before, after, wanted)
        elif kept := _from_shelf(change, shelf):
            found[planned.id] = _stood(job_changes, planned, kept, before, after, wanted)
        elif change.settings_near(None):
            found[planned.id] = _by_rise(job_changes, planned, before, wanted)
    return found


def _from_shelf(change: Change, shelf: Sequence[SpringOnShelf]) -> tuple[Change, ...]:
    """What is planned, then the same with each spring of the shelf that is of its kind; empty where none is."""
    others = [c for s in shelf if s.pairs and (c := change.with_spring(s.spring)) is not None and c != change]
    return (change, *others) if others else ()


def _with(stack: Stack, planned: PlannedChange, change: Change) -> Stack:
    swapped = planned.model_copy(update={"change": change})
    return tuple(swapped if p.id == planned.id else p for p in stack)


@dataclass(frozen=True)
class Look:
    """How settings of one sort are compared.

    Args:
        columns: heads of the cells.
        cells: of a stance.
        good: how good it is, more is better; None where it cannot be used.
        best: what the marked row is best by, and what is said where none is.
    """

    columns: tuple[str, ...]
    cells: Callable[[Stance], tuple[str, ...]]
    good: Callable[[Change, Stance, float | None], float | None]
    best: Callable[[float | None], tuple[str, str]]


def _stood(
    stack: Stack, planned: PlannedChange, every: Sequence[Change], before: Stood, after: Stood, wanted: float | None
) -> SettingTable:
    """Every setting stood on its own, and looked at as its change is."""
    name, look = planned.change.axle, LOOKS[planned.change.looked_at_as]
    rows, kept = [], []
    for n, change in enumerate(every):
        try:
            stance = stand_changed(before, _with(stack, planned, change), after).axle(name)
        except DomainError as no:
            cells = ("",) * (len(look.columns) - 1) + (str(no),)
            rows.append(TriedSetting(name=change.setting, cells=cells, change=None, best=False, now=False))
            continue
        if (good := look.good(change, stance, wanted)) is not None:
            kept.append((good, n))
        rows.append(
            TriedSetting(
                name=change.setting, cells=look.cells(stance), change=change, best=False,  # type: ignore[arg-type]
                now=change == planned.change,
            )
        )  # fmt: skip
    best = max(kept, key=lambda k: k[0])[1] if kept else None
    marked, none = look.best(wanted)
    # A column nobody has a number for says nothing.
    told = [n for n in range(len(look.columns)) if any(r.cells[n] not in ("", "–") for r in rows)]
    return SettingTable(
        columns=tuple(look.columns[n] for n in told),
        rows=tuple(
            r.model_copy(update={"best": n == best, "cells": tuple(r.cells[k] for k in told)})
            for n, r in enumerate(rows)
        ),
        note=marked if kept else none,
    )


def _mount_cells(stance: Stance) -> tuple[str, ...]:
    left = length_at_solid_stop(stance.axle, stance) - stance.axle.damper.closed_mm
    return (
        _figure(left, 0), f"{stance.travel - stance.full_droop:.0f}",
        f"{float(stance.ride.damper_length.ratio(stance.travel)):.2f}", f"{_tilt(stance):.0f}",
        "the stop" if left >= 0 else "the damper",
    )  # fmt: skip


def _mount_good(change: Change, stance: Stance, wanted: float | None) -> float | None:
    _ = wanted
    left = length_at_solid_stop(stance.axle, stance) - stance.axle.damper.closed_mm
    return change.height_of_setting if left >= WANTED_MM else None


def _coil_room(stance: Stance) -> float:
    """What the coil that is nearest to solid has left at full bump, mm."""
    return min(left for _, left in stance.axle.spring.coils_left(float(stance.ride.spring_at(stance.bump_end))))


def _held(stance: Stance) -> float:
    """Shortening of the springs at full droop, mm; negative where they are loose."""
    return float(stance.ride.spring.free_length) - float(stance.ride.spring_at(stance.full_droop))


def _spring_cells(stance: Stance) -> tuple[str, ...]:
    ride, coil = stance.ride, stance.axle.spring.is_coil
    steps = [t for s in stance.axle.spring.rate_steps() if (t := ride.travel_of_spring(s.length)) is not None]
    step = steps[0] if steps and stance.full_droop <= steps[0] <= stance.bump_end else None
    # Past ride height, and before full bump.
    stepped = (
        f"{_figure(step - stance.travel, 0, signed=True)} / {_figure(stance.bump_end - step, 0)}"
        if step is not None
        else "–"
    )
    held, left = (_figure(v, 0) if coil else "–" for v in (_held(stance), _coil_room(stance)))
    solid = coil and _coil_room(stance) < 0
    return (
        _figure(stance.rise, 1, signed=True), _figure(stance.wheel_rate, 1), held, left, stepped,
        "solid" if solid else _figure(float(ride.spring_force(stance.bump_end)), 0),
    )  # fmt: skip


def _spring_good(change: Change, stance: Stance, wanted: float | None) -> float | None:
    """Nearest to the height wanted, of those that neither bind nor come loose."""
    _ = change
    if wanted is None:
        return None
    if stance.axle.spring.is_coil:
        coil = stance.axle.coil
        bind = bind_margin_wanted(coil.active_coils if coil else None)
        if _held(stance) < 0 or _coil_room(stance) < bind:
            return None
    return -abs(stance.rise - wanted)


def _spring_best(wanted: float | None) -> tuple[str, str]:
    if wanted is None:
        said = "The brief wants no height: none is marked."
        return said, said
    return (
        f"Marked: nearest to what the brief wants, {signed(wanted, '.1f')} mm, of those that neither bind nor come "
        "loose.",
        "None is marked: each binds or comes loose at an end of its travel.",
    )


LOOKS = {
    "mount": Look(
        ("stroke left, stop solid, mm", "droop, mm", "ratio", "tilt, °", "ends the travel"), _mount_cells, _mount_good,
        lambda _: (
            f"Marked: the highest at which the stop still lands {WANTED_MM:g} mm before the damper closes.",
            "None is marked: in every one the damper closes before the stop is solid. A taller stop, a shorter damper, "
            "or its other mount moved by as much.",
        ),
    ),
    "spring": Look(
        (
            "rise, mm", "wheel rate, N/mm", "held at droop, mm", "coils left at bump, mm",
            "rate steps past ride / before bump, mm", "force at bump, N",
        ),
        _spring_cells, _spring_good, _spring_best,
    ),
}  # fmt: skip
"""By what a change says it is looked at as."""


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
        columns=("free angle, °", "rise, mm"),
        rows=tuple(rows),
        note=f"Marked: nearest to {said}, {signed(aim, '.1f')} mm.",
    )
