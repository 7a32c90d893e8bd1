"""What the commands do: read a file, compute, print JSON or a table. Exit codes as :mod:`inclinum.cli` says."""

import json
import math
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, NoReturn, TypeVar

import numpy as np
import typer
from pydantic import ValidationError

from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.prediction import BikePrediction, assess, predict_bike, sweep_rear
from inclinum.core.bike.proof import BikeProof, prove_bike
from inclinum.core.car.alignment import align
from inclinum.core.car.card import Step
from inclinum.core.car.draws import sample_vehicle
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import predict
from inclinum.core.car.proof import Proof, prove
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES
from inclinum.core.machines import card_of, prediction_of
from inclinum.core.part_sheets.axle import sweep, sweep_grid, sweep_steering
from inclinum.core.part_sheets.reconcile import Reconcile
from inclinum.core.plan import Finding
from inclinum.jobfile import (
    FORMATS,
    AxleFile,
    BikeFile,
    JobFile,
    JobFileError,
    SheetFile,
    read,
    read_any,
    read_job,
    schema,
)
from inclinum.jobfile.sentences import complaints

Result = TypeVar("Result")


Given = TypeVar("Given")


def _read(path: Path, reader: Callable[[bytes], Result]) -> Result:
    """What a reader makes of a file, or exit 2 with a path and a sentence for each complaint."""
    try:
        return reader(sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes())
    except OSError as error:
        _refuse(f"{path}: cannot be read: {error.strerror}.")
    except JobFileError as error:
        _refuse(str(error))


def _job(path: Path) -> Job:
    """The job of a file."""
    return _read(path, read).job


def _compute(work: Callable[[Given], Result], given: Given, where: str = "plan") -> Result:
    """Run a computation; what cannot be computed is told as a sentence."""
    try:
        return work(given)
    except ValidationError as error:
        _refuse("\n".join(f"{where}: {c.sentence}" for c in complaints(error.errors())))
    except DomainError as error:
        _refuse(f"{where}: {error}")


def _refuse(message: str) -> NoReturn:
    typer.echo(message, err=True)
    raise typer.Exit(2)


LONGEST_NAME, LONGEST_CELL = 34, 22
"""Characters of a line's name and of its numbers in a table; what is longer is a sentence."""


def _print(document: Any, table: bool, rows: Callable[[], list[list[str]]]) -> None:
    if not table:
        typer.echo(json.dumps(document, ensure_ascii=False, indent=1))
        return
    lines = rows()
    # A sentence runs on past its column: it makes no room for itself in every other line.
    columns = [[len(row[i]) for row in lines if i < len(row)] for i in range(max(map(len, lines)))]
    widths = [
        max((n for n in column if n <= (LONGEST_NAME if i == 0 else LONGEST_CELL)), default=0)
        for i, column in enumerate(columns)
    ]
    for row in lines:
        typer.echo("  ".join(cell.ljust(widths[i]) for i, cell in enumerate(row)).rstrip())


def predict_command(file: Path, table: bool, samples: int, seed: int) -> None:
    """Of a job: heights with ±, travel, ride, angles and findings. Of an axle or a bench sheet: everything it gives."""
    opened = _read(file, read_any)
    if samples:
        if not isinstance(opened, JobFile):
            _refuse("--samples: only a job on four wheels is drawn so; a sheet “uncertainty” has samples of its own.")
        answer = _compute(lambda job: _drawn(job, samples, seed), opened.job)
        _print(answer, table, lambda: _rows(answer))
        return
    if isinstance(opened, SheetFile):
        answer = _compute(lambda s: s.answer(), opened.sheet, "sheet")
        _print(answer, table, lambda: _rows(answer))
        return
    if isinstance(opened, AxleFile):
        answer = _compute(lambda a: sweep(a, [0.0]), opened.axle, "axle")
        _print(answer, table, lambda: _rows(answer))
        return
    if isinstance(opened, BikeFile):
        prediction = _compute(predict_bike, opened.job)
        _print(prediction.model_dump(mode="json"), table, lambda: _bike_rows(prediction))
        return
    found = _compute(predict, opened.job)

    def rows() -> list[list[str]]:
        lines = [["reference", "side", "before", "after", "±"]]
        lines += [
            [h.label if h.axle is None else f"{h.axle} {h.label}", h.side, f"{h.before:.1f}", f"{h.after:.1f}",
             f"{h.plus_minus:.1f}"]
            for h in found.heights
        ]  # fmt: skip
        for name in ("front", "rear"):
            axle = found.axle(name)
            lines.append([f"{name} rise", "", "", f"{axle.rise:+.1f}", f"{axle.plus_minus:.1f}"])
        lines.append(["pitch, nose-down +", "", "", f"{found.pitch_change_deg:+.2f}°", ""])
        lines += [[f.severity, f.what, *_numbers(f)] for f in found.findings]
        lines += [["assumed", said] for said in found.unmeasured]
        return lines + [["asked", q.sentence, q.where] for q in found.questions]

    _print(found.model_dump(mode="json"), table, rows)


def _drawn(job: Job, samples: int, seed: int) -> dict[str, Any]:
    """Mean and standard deviation of every wheel, of random draws of all that is uncertain."""
    wheels = {}
    for wheel in sample_vehicle(job, samples, seed):
        drawn = {"hub_to_arch_mm": wheel.height, "camber_deg": wheel.camber, "toe_deg": wheel.toe}
        wheels[f"{wheel.axle} {wheel.side}"] = {
            name: {"mean": float(v[np.isfinite(v)].mean()), "sigma": float(v[np.isfinite(v)].std())}
            for name, v in drawn.items()
        } | {"without_ride_height": int((~np.isfinite(wheel.height)).sum())}
    return {"samples": samples, "seed": seed, "wheels": wheels}


def _bike_rows(prediction: BikePrediction) -> list[list[str]]:
    """A two-wheeler in lines: both ends, steering, stand, findings."""
    lines = [["rider on", "before", "planned", "±"]]
    for name, field in (
        ("rear sag", "rear_sag_mm"), ("fork sag", "front_sag_mm"), ("rake, °", "rake_deg"), ("trail", "trail_mm"),
        ("wheelbase", "wheelbase_mm"), ("swing arm below level, °", "arm_angle_deg"), ("seat", "seat_mm"),
    ):  # fmt: skip
        was, now = getattr(prediction.before.laden, field), getattr(prediction.planned.laden, field)
        lines.append([name, f"{was:.1f}", f"{now:.1f}", ""])
    lines.append(["rear drop", "", f"{prediction.rear_drop_mm:+.1f}", f"{prediction.plus_minus_mm:.1f}"])
    lines.append(["fork raise for unchanged trail", "", f"{prediction.steering.raise_wanted_mm:.1f}", ""])
    if prediction.stand is not None:
        lines.append(
            ["stand lean, °", f"{prediction.stand.lean_before_deg:.1f}", f"{prediction.stand.lean_after_deg:.1f}", ""]
        )
    lines += [[f.severity, f.what, *_numbers(f)] for f in prediction.findings]
    lines += [["assumed", said] for said in prediction.unmeasured]
    return lines + [["asked", question] for question in prediction.questions]


def _rows(answer: Any, name: str = "") -> list[list[str]]:
    """Nested results as rows of name and value."""
    if isinstance(answer, dict):
        return [row for key, value in answer.items() for row in _rows(value, f"{name}.{key}" if name else key)]
    if isinstance(answer, list) and any(isinstance(v, dict) for v in answer):
        return [row for i, value in enumerate(answer) for row in _rows(value, f"{name}[{i}]")]
    if isinstance(answer, list):
        return [[name, "  ".join(_cell(v) for v in answer)]]
    return [[name, _cell(answer)]]


def _cell(value: Any) -> str:
    return f"{value:.6g}" if isinstance(value, float) else "–" if value is None else str(value)


def _range(text: str | None, option: str) -> list[float]:
    """``from:to:step`` or a single number."""
    if text is None:
        return []
    try:
        parts = [float(p) for p in text.split(":")]
    except ValueError:
        parts = []
    if all(abs(p) <= FARTHEST for p in parts):  # also refuses what is no number
        if len(parts) == 1:
            return parts
        if len(parts) == 3:
            low, high, step = parts
            if step > 0 and low <= high and (high - low) / step <= MOST_POSITIONS:
                return [low + n * step for n in range(int((high - low) / step + 1e-9) + 1)]
            if step > 0 and low <= high:
                _refuse(f"{option}: “{text}” has more than {MOST_POSITIONS} positions; take a larger step.")
    elif all(map(math.isfinite, parts)):
        _refuse(f"{option}: “{text}” goes beyond {FARTHEST} mm (or degrees); is the unit right?")
    _refuse(f"{option}: “{text}” is no range; write it as from:to:step, such as -90:90:15, or as one number.")


MOST_POSITIONS = 4000
FARTHEST = 2000
"""mm or degrees: no axle goes further."""


def _finite(value: float | None, option: str) -> None:
    """Refuse an option's number that nothing can be worked out from."""
    if value is not None and not abs(value) <= MOST_OF[option]:
        _refuse(f"{option}: {value:g} cannot be used; give an ordinary number up to {MOST_OF[option]}.")


MOST_OF = {"--rack": 1000, "--pitch": 45, "--wheelbase": 20_000}


def sweep_command(
    file: Path,
    travel: str | None,
    heave: str | None,
    roll: str | None,
    rack: float,
    pitch: float,
    steer: str | None,
    wheelbase: float | None,
    axle: str,
    table: bool,
) -> None:
    """Angles, shifts, lengths and ratios of one axle over travel, or over heave and roll."""
    for option, value in (("--rack", rack), ("--pitch", pitch), ("--wheelbase", wheelbase)):
        _finite(value, option)
    opened = _read(file, read_any)
    if isinstance(opened, SheetFile):
        _refuse("format: A bench sheet has no travel; use inclinum predict.")
    if isinstance(opened, BikeFile):
        job, travels = opened.job, _range(travel, "--travel") or [0.0]
        answer = _compute(lambda j: sweep_rear(assess(j).after, travels), job)
        _print(answer, table, lambda: _columns(answer))
        return
    if axle not in AXLES:
        _refuse(f"--axle: “{axle}” is neither front nor rear.")
    sheet = opened.axle if isinstance(opened, AxleFile) else opened.job.vehicle.axle(axle).sheet()
    if steer is not None:
        racks, at = _range(steer, "--steer"), (_range(travel, "--travel") or [0.0])[0]
        answer = _compute(lambda s: sweep_steering(s, racks, at, wheelbase), sheet, "axle")
    elif roll is not None:
        rolls, heaves = _range(roll, "--roll"), _range(heave or travel, "--heave") or [0.0]
        if len(rolls) * len(heaves) > MOST_POSITIONS:
            _refuse(f"--roll: with --heave these are more than {MOST_POSITIONS} positions; take larger steps.")
        answer = _compute(lambda s: sweep_grid(s, heaves, rolls), sheet, "axle")
    else:
        travels = _range(travel or heave, "--travel") or [0.0]
        answer = _compute(lambda s: sweep(s, travels, rack, pitch), sheet, "axle")
    _print(answer, table, lambda: _columns(answer))


def _columns(answer: dict[str, Any]) -> list[list[str]]:
    """Lists of one length as columns, what is left as rows below."""
    grid = answer.get("grid")
    count = len(grid or (answer["travel_mm"] if isinstance(answer["travel_mm"], list) else answer["rack_mm"]))
    columns = {k: v for k, v in answer.items() if isinstance(v, list) and len(v) == count and k != "grid"}
    lines = [[*(answer["grid_columns"] if grid else []), *columns]]
    lines += [
        [*(_cell(c) for c in (grid[i] if grid else [])), *(_cell(v[i]) for v in columns.values())] for i in range(count)
    ]
    return lines + _rows({k: v for k, v in answer.items() if k not in columns and not k.startswith("grid")})


def check(file: Path, table: bool) -> None:
    """Findings only, worst first; exit 1 when one stops the plan."""
    opened = _read(file, read_job)
    found = _compute(prediction_of, opened.job)
    _print(
        [f.model_dump(mode="json") for f in found.findings],
        table,
        lambda: (
            [["severity", "finding", "value", "limit", "margin", "unit"]]
            + [
                [f.severity, f.what, *_numbers(f)[:2], f"{f.margin:+.1f}" if f.unit else "", f.unit]
                for f in found.findings
            ]
        ),
    )
    if found.stopped:
        raise typer.Exit(1)


def _numbers(finding: Finding[Any]) -> list[str]:
    """Value, limit and unit; nothing of what is no matter of more or less."""
    return [f"{finding.value:.1f}", f"{finding.limit:.1f}", finding.unit] if finding.unit else ["", "", ""]


def _signed(value: float | None) -> str:
    return "-" if value is None else f"{value:+.2f}"


JUDGED = {True: "yes", False: "no", None: "no target"}


def align_command(file: Path, table: bool) -> None:
    """Adjuster settings at the planned height and what they leave over."""
    found = _compute(align, _job(file))

    def rows() -> list[list[str]]:
        lines = [["wheel", "angle", "before", "planned", "target", "achieved", "within"]]
        for wheel in found.wheels:
            where = f"{wheel.axle} {wheel.side}"
            lines += [
                [where, a.angle, ("{:+.2f}" if a.read else "({:+.2f})").format(a.before), f"{a.planned:+.2f}",
                 _signed(a.target), f"{a.achieved:+.2f}",
                 JUDGED[a.within] if a.target is None or not a.assumed else "usual, not judged"]
                for a in wheel.angles
            ]  # fmt: skip
            lines += [[where, s.name, s.instruction + (", at its stop" if s.at_stop else "")] for s in wheel.settings]
            lines += [[where, wheel.set_with, "with the left wheel"]] if wheel.set_with else []
        return lines + [[sentence] for sentence in (*found.not_judged, *found.left_over)]

    _print(found.model_dump(mode="json"), table, rows)


def card_command(file: Path, table: bool, pdf: Path | None, paper: str) -> None:
    """The job card, or another paper that goes with it."""
    job = _read(file, read_job).job
    made = _compute(card_of, job)
    if pdf:
        from inclinum import report  # the page renderer is slow to load and needed here only

        card_html = report.bike_card_html if isinstance(job, BikeJob) else report.card_html
        papers = {
            "card": card_html, "quotation": report.quotation_html, "labels": report.labels_html,
            "hand-over": report.hand_over_html,
        }  # fmt: skip
        if paper not in papers:
            _refuse(f"--paper: There is no paper “{paper}”; there are {', '.join(papers)}.")
        try:
            pdf.write_bytes(report.pdf(papers[paper](job)))
        except OSError as error:
            _refuse(f"{pdf}: cannot be written: {error.strerror}.")
        typer.echo(f"{pdf}: written, {len(made.steps)} steps")
        return
    _print(
        made.model_dump(mode="json"),
        table,
        lambda: [["phase", "where", "step"]] + [[s.phase, _where(s), s.text] for s in made.steps],
    )


def prove_command(file: Path, table: bool) -> None:
    """Readings after the job against the prediction, and which one thing would explain what is off."""
    opened = _read(file, read_any)
    if isinstance(opened, SheetFile):
        if not isinstance(opened.sheet, Reconcile):
            _refuse(f"sheet.kind: A sheet “{opened.sheet.kind}” proves nothing; prove takes a job or “reconcile”.")  # type: ignore[attr-defined]
        answer = _compute(lambda s: s.answer(), opened.sheet, "sheet")
        _print(answer, table, lambda: _rows(answer))
        return
    if isinstance(opened, AxleFile):
        _refuse("format: An axle alone was not measured after a job; prove takes a job or a sheet “reconcile”.")
    if isinstance(opened, BikeFile):
        made = _compute(prove_bike, opened.job)
        _print(made.model_dump(mode="json"), table, lambda: _proved_bike(made))
        return
    proof = _compute(prove, opened.job)
    _print(proof.model_dump(mode="json"), table, lambda: _proved(proof))


def _proved(proof: Proof) -> list[list[str]]:
    """A proof in lines."""
    lines = [["reference", "side", "predicted", "±", "measured", "off", "within"]]
    lines += [
        [f"{h.axle or ''} {h.label}".strip(), h.side, f"{h.predicted:.1f}", f"{h.plus_minus:.1f}", f"{h.after:.1f}",
         f"{h.residual:+.1f}", "yes" if h.within else "no"]
        for h in proof.heights
    ]  # fmt: skip
    lines += [
        [f"{a.axle} {a.angle}", a.side, f"{a.target:.2f}°", f"{a.window:.2f}", f"{a.after:.2f}°",
         f"{a.after - a.target:+.2f}", "usual, not judged" if a.within is None else JUDGED[a.within]]
        for a in proof.angles
    ]  # fmt: skip
    lines += [
        [f"{s.axle} left less right", "", "" if s.before is None else f"{s.before:+.1f}", "", f"{s.after:+.1f}", "",
         "yes" if s.even else "no"]
        for s in proof.sides
    ]  # fmt: skip
    lines += [["verdict", proof.verdict], *(["not read", place] for place in proof.unread)]
    if proof.verdict == "outside":
        lines += [["one cause", f"{c.label}: {c.value:+.1f} {c.unit}", f"explains {100 * c.explains:.0f} %",
                   "", "leaves", " ".join(f"{v:+.1f}" for v in c.left_mm)] for c in proof.causes]  # fmt: skip
    return lines + [[q.where, q.sentence] for q in proof.questions]


def _proved_bike(proof: BikeProof) -> list[list[str]]:
    """The same of a two-wheeler."""
    rows = [(f"{s.end} sag, {s.state}", s) for s in proof.sags]
    rows += [("rear drop, rider on", proof.rear_drop)] if proof.rear_drop else []
    lines = [["reading", "predicted", "±", "measured", "off", "within"]]
    lines += [
        [name, f"{s.predicted:.1f}", f"{s.plus_minus:.1f}", f"{s.after:.1f}", f"{s.residual:+.1f}",
         "yes" if s.within else "no"]
        for name, s in rows
    ]  # fmt: skip
    if proof.seat_after is not None:
        off = proof.seat_after - proof.seat_predicted
        lines.append(
            ["seat", f"{proof.seat_predicted:.1f}", f"{proof.seat_plus_minus:.1f}", f"{proof.seat_after:.1f}",
             f"{off:+.1f}", "yes" if proof.seat_within else "no"]
        )  # fmt: skip
    return [*lines, ["verdict", proof.verdict], *(["not read", sag] for sag in proof.unread)]


def _where(step: Step) -> str:
    """Where a step is done."""
    return f"{step.axle or ''} {step.side or ''}".strip()


def backup_command(file: Path, data: Path) -> None:
    """Everything in the database as one archive, also while the application serves; read again before it counts."""
    made = _with_database(data, lambda engine, archive: archive.back_up(engine, file), made=False)
    typer.echo(f"{file}: {made.summary()}; read again, every count and hash agrees.")


def restore_command(file: Path, data: Path, replace: bool) -> None:
    """Put an archive into an empty database, or with --replace in place of what is there."""
    put = _with_database(data, lambda engine, archive: archive.restore(engine, file, replace), made=True)
    typer.echo(f"{file}: {put.summary()}; what arrived has the counts and hashes it was backed up with.")


def _with_database(data: Path, work: Callable[[Any, Any], Result], made: bool) -> Result:
    """Do something with the database in a data folder; what stands in the way is told as a sentence."""
    # The database is slow to load, and most commands need none.
    from sqlalchemy.exc import DBAPIError

    from inclinum.launch.account import LaunchError
    from inclinum.launch.visiting import database
    from inclinum.store import archive

    try:
        with database(data.absolute(), made) as engine:
            return work(engine, archive)
    except (LaunchError, archive.ArchiveError) as error:
        _refuse(str(error))
    except DBAPIError as error:
        _refuse(f"The database refused: {str(error.orig).strip()}. Nothing was changed.")


def schema_command(of: str) -> None:
    """The JSON Schema of a file format."""
    model = FORMATS.get(f"inclinum-{of}")
    if model is None:
        _refuse(f"“{of}” is no format; there are job, bike-job, axle and sheet.")
    typer.echo(json.dumps(schema(model), ensure_ascii=False, indent=1))
