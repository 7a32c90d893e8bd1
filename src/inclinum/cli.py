"""``inclinum``: the planning bench on job files, without a database.

Exit codes: 0 done, 1 done and something stops the plan, 2 the file cannot be used.
"""

from pathlib import Path
from typing import Annotated

import typer

app = typer.Typer(add_completion=False, no_args_is_help=True, help=__doc__)

File = Annotated[Path, typer.Argument(help="a job file, or - for standard input")]
Table = Annotated[bool, typer.Option("--table", help="a readable table instead of JSON")]
DATA = Path(__file__).parents[2] / ".data"
Data = Annotated[
    Path, typer.Option("--data", envvar="INCLINUM_DATA", help="the data folder, as ./start has it", show_default=False)
]


@app.command("predict")
def predict_command(
    file: File,
    table: Table = False,
    samples: Annotated[
        int, typer.Option(help="of a job on four wheels: draw everything uncertain so often instead", max=20_000, min=0)
    ] = 0,
    seed: Annotated[int, typer.Option(help="of the draws", min=0, max=2**31 - 1)] = 1,
) -> None:
    """Of a job: heights with ±, travel, ride, angles and findings. Of an axle or a bench sheet: everything it gives."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.predict_command(file, table, samples, seed)


@app.command("sweep")
def sweep_command(
    file: File,
    travel: Annotated[str | None, typer.Option(help="wheel travel in mm, bump positive, as from:to:step")] = None,
    heave: Annotated[str | None, typer.Option(help="of a solid axle, with --roll: from:to:step in mm")] = None,
    roll: Annotated[str | None, typer.Option(help="of a solid axle: from:to:step in degrees, left up positive")] = None,
    rack: Annotated[float, typer.Option(help="rack travel along +y, mm; of a box, turn of its arm, degrees")] = 0.0,
    pitch: Annotated[float, typer.Option(help="body pitch, nose-down positive, degrees")] = 0.0,
    steer: Annotated[
        str | None, typer.Option(help="sweep the steering at one --travel instead: from:to:step in mm of rack")
    ] = None,
    wheelbase: Annotated[float | None, typer.Option(help="with --steer: tells the Ackermann error, mm")] = None,
    axle: Annotated[str, typer.Option(help="of a job: which axle, front or rear")] = "front",
    table: Table = False,
) -> None:
    """Angles, shifts, lengths and ratios of one axle over travel, or over heave and roll."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.sweep_command(file, travel, heave, roll, rack, pitch, steer, wheelbase, axle, table)


@app.command()
def check(file: File, table: Table = False) -> None:
    """Findings only, worst first; exit 1 when one stops the plan."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.check(file, table)


@app.command("align")
def align_command(file: File, table: Table = False) -> None:
    """Adjuster settings at the planned height and what they leave over."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.align_command(file, table)


@app.command("card")
def card_command(
    file: File,
    table: Table = False,
    pdf: Annotated[Path | None, typer.Option("--pdf", help="write it as a printable PDF")] = None,
    paper: Annotated[str, typer.Option("--paper", help="of the PDF: card, quotation, labels or hand-over")] = "card",
) -> None:
    """The job card, and the papers that go with it."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.card_command(file, table, pdf, paper)


@app.command("prove")
def prove_command(file: File, table: Table = False) -> None:
    """Readings after the job against the prediction, and which one thing would explain what is off."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.prove_command(file, table)


@app.command("backup")
def backup_command(
    file: Annotated[Path, typer.Argument(help="the archive to write; it must not be there yet")], data: Data = DATA
) -> None:
    """Everything in the database as one archive, also while the application serves; read again before it counts."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.backup_command(file, data)


@app.command("restore")
def restore_command(
    file: Annotated[Path, typer.Argument(help="an archive that backup wrote")],
    data: Data = DATA,
    replace: Annotated[
        bool, typer.Option("--replace", help="also over what is in the database: that is then gone")
    ] = False,
) -> None:
    """Put an archive into an empty database, or with --replace in place of what is there."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.restore_command(file, data, replace)


@app.command("schema")
def schema_command(
    of: Annotated[str, typer.Argument(help="job, bike-job, axle or sheet")] = "job",
) -> None:
    """The JSON Schema of a file format."""
    from inclinum import commands  # what computes takes a second to load, and help does not need it

    commands.schema_command(of)


if __name__ == "__main__":
    app()
