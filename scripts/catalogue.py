"""Writes docs/catalogue.md from the changes; `./test` refuses one that has drifted."""

from pathlib import Path

from inclinum.core.machines import KINDS
from inclinum.core.plan.catalogue import catalogue

if __name__ == "__main__":
    page = catalogue({kind.title: kind.changes for kind in KINDS.values()})
    (Path(__file__).parents[1] / "docs" / "catalogue.md").write_text(page)
