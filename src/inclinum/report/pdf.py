"""Job card and alignment sheet as printable pages."""

from pathlib import Path

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from markupsafe import Markup

from inclinum.core.alignment import Alignment, align
from inclinum.core.job import Job
from inclinum.core.prediction import predict
from inclinum.core.procedure import Card, card
from inclinum.report.drawing import side_elevation

HERE = Path(__file__).parent

_templates = Environment(
    loader=FileSystemLoader(HERE / "templates"),
    autoescape=True,
    undefined=StrictUndefined,
    trim_blocks=True,
    lstrip_blocks=True,
)


def card_html(job: Job) -> str:
    """The job card as a page. Raises as ``assess``."""
    made: Card = card(job)
    prediction = predict(job)
    phases = list(dict.fromkeys(s.phase for s in made.steps))
    return _templates.get_template("card.html").render(
        card=made,
        phases=[(p, [s for s in made.steps if s.phase == p]) for p in phases],
        job=job,
        prediction=prediction,
        elevation=Markup(side_elevation(prediction.drawing)),
    )


def alignment_html(job: Job) -> str:
    """The one-page alignment sheet. Raises as ``assess``."""
    alignment: Alignment = align(job)
    return _templates.get_template("alignment.html").render(
        job=job, alignment=alignment, prediction=predict(job), axles={a.axle: a for a in alignment.axles}
    )


def pdf(html: str) -> bytes:
    """A page as PDF; fonts come from the package, nothing from the network."""
    from weasyprint import HTML  # a second of loading that only paper needs

    document = HTML(string=html, base_url=str(HERE)).write_pdf()
    assert document is not None
    return document
