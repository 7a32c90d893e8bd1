"""Hardpoints as a table: written as CSV, read from CSV or from what is pasted out of a spreadsheet."""

import csv
import io
import re

from inclinum.core.linkage import AnyLinkage, point_name
from inclinum.core.linkage.points import FARTHEST_MM
from inclinum.core.quantity import EntryError, parse
from inclinum.jobfile.sentences import Complaint

HEADER = ("point", "x_mm", "y_mm", "z_mm")


def write_points(linkage: AnyLinkage) -> str:
    """The hardpoints as CSV with a header."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADER)
    for name, at in linkage.named_points().items():
        table.writerow([name, *(f"{v:g}" for v in at)])
    return out.getvalue()


class PointsError(ValueError):
    """The table cannot be used; each complaint names line and column."""

    def __init__(self, found: list[Complaint]):
        super().__init__("\n".join(f"{c.path}: {c.sentence}" for c in found))
        self.complaints = found


def read_points(text: str, linkage: AnyLinkage) -> dict[str, tuple[float, float, float]]:
    """Points of a pasted table, by name; comma, semicolon or tab between cells, units as they are typed.

    A point may be given by its name in the file or by what it is called on the screen. Points that are not in the
    table stay as they are.

    Raises:
        PointsError: with a line and a column for everything that cannot be read.
    """
    known = linkage.named_points()
    by_word = {_plain(n): n for n in known} | {_plain(point_name(n)): n for n in known}
    found: dict[str, tuple[float, float, float]] = {}
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
            here = ", ".join(known)
            wrong.append(_at(number, 1, f"“{cells[0]}” is no point of this suspension; there are {here}."))
            continue
        if name in found:
            wrong.append(_at(number, 1, f"“{cells[0]}” is there twice."))
        if len(cells) < 4:
            wrong.append(_at(number, len(cells) + 1, f"A point has three coordinates, this line has {len(cells) - 1}."))
            continue
        values = []
        for column, cell in enumerate(cells[1:4], start=2):
            try:
                value = parse(cell).value
            except EntryError as error:
                wrong.append(_at(number, column, str(error)))
                continue
            if abs(value) > FARTHEST_MM:
                wrong.append(_at(number, column, f"{cell} is {value / 1000:.1f} m from the wheel: is the unit right?"))
            values.append(value)
        if len(values) == 3:
            found[name] = (values[0], values[1], values[2])
    if not found and not wrong:
        wrong.append(_at(1, 1, "There is no point in this; paste lines of name, x, y, z."))
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
