"""Pages from templates, and pages as PDF."""

from pathlib import Path
from typing import Any

from jinja2 import DictLoader, Environment, StrictUndefined

from inclinum.core.quantity.words import plus_minus

HERE = Path(__file__).parent

# Held in memory: the account that serves may not be able to read the folder the program was started from.
_templates = Environment(
    loader=DictLoader({p.name: p.read_text() for p in (HERE / "templates").glob("*.html")}),
    autoescape=True,
    undefined=StrictUndefined,
    trim_blocks=True,
    lstrip_blocks=True,
)
_templates.filters["plus_minus"] = plus_minus


def page(template: str, **given: Any) -> str:
    """A template filled in."""
    return _templates.get_template(template).render(**given)


def pdf(html: str) -> bytes:
    """A page as PDF; fonts come from the package, nothing from the disk or the network."""
    from inclinum.report.paper import rendered  # a second of loading that only paper needs

    return rendered(html)
