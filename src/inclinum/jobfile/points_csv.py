"""Hardpoints as a table: written as CSV, read from CSV or from what is pasted out of a spreadsheet."""

import csv
import io
import re
from collections.abc import Iterable, Mapping

import numpy as np

from inclinum.core.bike.fit import STROKE, fitted, point_title
from inclinum.core.bike.job import BikeMeasurements
from inclinum.core.bike.machine import Bike
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics import AnyLinkage, point_name
from inclinum.core.kinematics.points import FARTHEST_MM
from inclinum.core.kinematics.rear_end import RearEnd
from inclinum.core.quantity import EntryError, parse
from inclinum.jobfile.sentences import Complaint


def write_points(linkage: AnyLinkage) -> str:
    """The hardpoints of an axle as CSV with a header."""
    return _written(linkage.named_points(), ("x_mm", "y_mm", "z_mm"))


def write_rear_points(rear: RearEnd) -> str:
    """The points of a two-wheeler's rear end as CSV with a header."""
    return _written(rear.named(), ("x_mm", "z_mm"))


def _written(points: Mapping[str, Iterable[float]], axes: tuple[str, ...]) -> str:
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(("point", *axes))
    for name, at in points.items():
        table.writerow([name, *(f"{v:g}" for v in at)])
    return out.getvalue()


class PointsError(DomainError):
    """The table cannot be used; each complaint names line and column."""

    def __init__(self, found: list[Complaint]):
        super().__init__("\n".join(f"{c.path}: {c.sentence}" for c in found))
        self.complaints = found


def read_points(text: str, linkage: AnyLinkage) -> dict[str, tuple[float, float, float]]:
    """Points of an axle from a pasted table, by name, as :func:`_read` understands it."""
    found = _read(text, {n: point_name(n) for n in linkage.named_points()}, 3)
    return {n: (x, y, z) for n, (x, y, z) in found.items()}


def read_rear_points(text: str, rear: RearEnd) -> dict[str, tuple[float, float]]:
    """Points of a two-wheeler's rear end from a pasted table, by name, as :func:`_read` understands it.

    Raises:
        PointsError: also where the rear axle is put elsewhere: everything is told from it.
    """
    found = _read(text, {n: point_title(n) for n in rear.named()}, 2)
    if "axle" in found and found["axle"] != rear.named()["axle"]:
        x, z = rear.named()["axle"]
        sentence = f"The rear axle stays at {x:g}, {z:g}: all other points are told from it, and from the ground."
        raise PointsError([Complaint(path="the rear axle", sentence=sentence)])
    return {n: (x, z) for n, (x, z) in found.items()}


def _read(text: str, titles: Mapping[str, str], axes: int) -> dict[str, tuple[float, ...]]:
    """Points of a pasted table, by name; comma, semicolon or tab between cells, units as they are typed.

    A point may be given by its name in the file or by what it is called on the screen. Points that are not in the
    table stay as they are.

    Raises:
        PointsError: with a line and a column for everything that cannot be read.
    """
    by_word = {_plain(n): n for n in titles} | {_plain(title): n for n, title in titles.items()}
    found: dict[str, tuple[float, ...]] = {}
    wrong: list[Complaint] = []
    lines = text.strip("\ufeff").splitlines()
    if len(lines) > 500:
        raise PointsError([Complaint(path="line 501", sentence="No suspension has this many points; paste one table.")])
    for number, line in enumerate(lines, start=1):
        if not line.strip():
            continue
        cells = _cells(line)
        if number == 1 and not any(re.search(r"\d", c) for c in cells[1:]):
            continue  # a header
        name = by_word.get(_plain(cells[0]))
        if name is None:
            here = ", ".join(titles)
            wrong.append(_at(number, 1, f"“{cells[0]}” is no point of this suspension; there are {here}."))
            continue
        if name in found:
            wrong.append(_at(number, 1, f"“{cells[0]}” is there twice."))
        if len(cells) < axes + 1:
            many = {2: "two", 3: "three"}[axes]
            wrong.append(
                _at(number, len(cells) + 1, f"A point has {many} coordinates, this line has {len(cells) - 1}.")
            )
            continue
        values = []
        for column, cell in enumerate(cells[1 : axes + 1], start=2):
            try:
                value = parse(cell).value
            except EntryError as error:
                wrong.append(_at(number, column, str(error)))
                continue
            if abs(value) > FARTHEST_MM:
                wrong.append(_at(number, column, f"{cell} is {value / 1000:.1f} m from the wheel: is the unit right?"))
            values.append(value)
        if len(values) == axes:
            found[name] = tuple(values)
    if not found and not wrong:
        wrong.append(_at(1, 1, "There is no point in this; paste lines of a name and its coordinates."))
    if wrong:
        raise PointsError(wrong)
    return found


def _cells(line: str) -> list[str]:
    """Cells of a line; a comma is a decimal comma where tabs or semicolons separate."""
    mark = "\t" if "\t" in line else ";" if ";" in line else ","
    return [c.strip().strip('"') for c in line.split(mark)]


def _plain(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", " ", name.lower()).strip()


def _at(line: int, column: int, sentence: str) -> Complaint:
    return Complaint(path=f"line {line}, column {column}", sentence=sentence)


def table_of(part: Axle | Bike) -> str:
    """The points of what lies on the bench as CSV; a two-wheeler's fitted to its readings."""
    if isinstance(part, Axle):
        return write_points(part.linkage)
    return write_rear_points(fitted(part, BikeMeasurements()).bike.rear)


def with_table(part: Axle | Bike, text: str) -> Axle | Bike:
    """The same with the points of a table; tape readings then no longer say where they are.

    Raises:
        PointsError: the table cannot be used.
        ValidationError: its points make no linkage.
    """
    if isinstance(part, Axle):
        drawn = part.linkage.model_dump()
        drawn["points"] |= read_points(text, part.linkage)
        return Axle.model_validate(part.model_dump() | {"linkage": drawn, "prior": None, "tape": ()})
    given = {n: np.array(at) for n, at in read_rear_points(text, part.rear).items()}
    # How far the damper goes is no point's business.
    kept = tuple(t for t in part.tape if t.key == STROKE)
    return part.model_copy(update={"rear": part.rear.with_points(given), "tape": kept})
