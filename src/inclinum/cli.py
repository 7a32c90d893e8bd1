"""``inclinum``: the planning bench on job files, without a database.

Exit codes: 0 done, 1 done and something stops the plan, 2 the file cannot be used.
"""

import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Any, NoReturn, TypeVar

import typer

from inclinum.core.alignment import align
from inclinum.core.job import Job
from inclinum.core.prediction import predict
from inclinum.core.procedure import card
from inclinum.jobfile import JobFileError, read, schema

app = typer.Typer(add_completion=False, no_args_is_help=True, help=__doc__)

Result = TypeVar("Result")
File = Annotated[Path, typer.Argument(help="a job file, or - for standard input")]
Table = Annotated[bool, typer.Option("--table", help="a readable table instead of JSON")]


def _job(path: Path) -> Job:
    """The job of a file, or exit 2 with a path and a sentence for each complaint."""
    try:
        data = sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes()
        return read(data).job
    except OSError as error:
        _refuse(f"{path}: cannot be read: {error.strerror}.")
    except JobFileError as error:
        _refuse(str(error))


def _compute(work: Callable[[Job], Result], job: Job) -> Result:
    """Run a computation; what cannot be computed is told as a sentence."""
    try:
        return work(job)
    except ValueError as error:
        _refuse(f"plan: {error}")


def _refuse(message: str) -> NoReturn:
    typer.echo(message, err=True)
    raise typer.Exit(2)


def _print(document: Any, table: bool, rows: Callable[[], list[list[str]]]) -> None:
    if not table:
        typer.echo(json.dumps(document, ensure_ascii=False, indent=1))
        return
    lines = rows()
    widths = [max(len(row[i]) for row in lines if i < len(row)) for i in range(max(map(len, lines)))]
    for row in lines:
        typer.echo("  ".join(cell.ljust(widths[i]) for i, cell in enumerate(row)).rstrip())


@app.command("predict")
def predict_command(file: File, table: Table = False) -> None:
    """Heights with ±, travel, ride, angles and findings."""
    found = _compute(predict, _job(file))

    def rows() -> list[list[str]]:
        lines = [["reference", "side", "before", "after", "±"]]
        lines += [
            [h.label if h.axle is None else f"{h.axle} {h.label}", h.side, f"{h.before:.1f}", f"{h.after:.1f}",
             f"{h.plus_minus or 0:.1f}"]
            for h in found.heights
        ]  # fmt: skip
        for name in ("front", "rear"):
            axle = found.axle(name)
            lines.append([f"{name} rise", "", "", f"{axle.rise:+.1f}", f"{axle.plus_minus:.1f}"])
        lines.append(["pitch, nose-down +", "", "", f"{found.pitch_change_deg:+.2f}°", ""])
        lines += [[f.severity, f.what, f"{f.value:.1f}", f"{f.limit:.1f}", f.unit] for f in found.findings]
        return lines

    _print(found.model_dump(mode="json"), table, rows)


@app.command()
def check(file: File, table: Table = False) -> None:
    """Findings only, worst first; exit 1 when one stops the plan."""
    found = _compute(predict, _job(file))
    _print(
        [f.model_dump(mode="json") for f in found.findings],
        table,
        lambda: (
            [["severity", "finding", "value", "limit", "margin", "unit"]]
            + [
                [f.severity, f.what, f"{f.value:.1f}", f"{f.limit:.1f}", f"{f.margin:+.1f}", f.unit]
                for f in found.findings
            ]
        ),
    )
    if found.stopped:
        raise typer.Exit(1)


@app.command("align")
def align_command(file: File, table: Table = False) -> None:
    """Adjuster settings at the planned height and what they leave over."""
    found = _compute(align, _job(file))

    def rows() -> list[list[str]]:
        lines = [["wheel", "angle", "before", "planned", "target", "achieved", "within"]]
        for wheel in found.wheels:
            where = f"{wheel.axle} {wheel.side}"
            lines += [
                [where, a.angle, f"{a.before:+.2f}", f"{a.planned:+.2f}", f"{a.target:+.2f}", f"{a.achieved:+.2f}",
                 "yes" if a.within else "no"]
                for a in wheel.angles
            ]  # fmt: skip
            lines += [[where, s.name, s.instruction + (", at its stop" if s.at_stop else "")] for s in wheel.settings]
        return lines + [[sentence] for sentence in found.left_over]

    _print(found.model_dump(mode="json"), table, rows)


@app.command("card")
def card_command(
    file: File,
    table: Table = False,
    pdf: Annotated[Path | None, typer.Option("--pdf", help="write the card as a printable PDF")] = None,
) -> None:
    """The job card."""
    job = _job(file)
    made = _compute(card, job)
    if pdf:
        from inclinum import report  # the page renderer is slow to load and needed here only

        try:
            pdf.write_bytes(report.pdf(report.card_html(job)))
        except OSError as error:
            _refuse(f"{pdf}: cannot be written: {error.strerror}.")
        typer.echo(f"{pdf}: written, {len(made.steps)} steps")
        return
    _print(
        made.model_dump(mode="json"),
        table,
        lambda: (
            [["phase", "where", "step"]]
            + [[s.phase, f"{s.axle or ''} {s.side or ''}".strip(), s.text] for s in made.steps]
        ),
    )


@app.command("schema")
def schema_command() -> None:
    """The JSON Schema of the job file."""
    typer.echo(json.dumps(schema(), ensure_ascii=False, indent=1))


if __name__ == "__main__":
    app()
