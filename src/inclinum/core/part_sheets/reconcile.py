"""Measured heights against predicted ones, and which one thing would explain the difference."""

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.names import Name
from inclinum.core.equilibrium.body import CORNERS
from inclinum.core.part_sheets.base import Answer, Sheet
from inclinum.core.part_sheets.whole_vehicle import CornerName, corner_places, per_corner
from inclinum.core.part_sheets.whole_vehicle import FourCorners as Planned
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.uncertainty.explain import Explanation, FourCorners, Hypothesis, explain, of_axle, of_corner

Height = Annotated[float, Field(ge=-500, le=3000)]


class RateOff(Document):
    """Both springs of an axle off by one factor."""

    label: Name
    type: Literal["rate"]
    axle: Literal["front", "rear"]

    def hypothesis(self) -> Hypothesis:
        """As the fit takes it."""
        return Hypothesis(self.label, "rate", of_axle(self.axle == "front"))


class LoadAboard(Document):
    """A mass at a place that the prediction did not have; negative for one that is missing."""

    label: Name
    type: Literal["load"]
    x_mm: float = Field(ge=-10_000, le=10_000)
    y_mm: float = Field(ge=-3000, le=3000)

    def hypothesis(self) -> Hypothesis:
        """As the fit takes it."""
        return Hypothesis(self.label, "load", at=(self.x_mm, self.y_mm))


class Unseated(Document):
    """One spring that stands above its pocket."""

    label: Name
    type: Literal["unseated"]
    corner: CornerName

    def hypothesis(self) -> Hypothesis:
        """As the fit takes it."""
        return Hypothesis(self.label, "unseated", of_corner(self.corner))


NAMES: dict[str, str] = {"rate": "rate_error_ratio", "load": "extra_mass_kg", "unseated": "unseated_by_mm"}


class Reconcile(Sheet):
    """The plan, what was predicted and measured, and what may be off.

    Source: least squares of each single cause on the four residuals, by the body on four corners; ranked by what is
    left over.
    """

    kind: Literal["reconcile"] = "reconcile"
    gravity_m_per_s2: float = Field(default=GRAVITY, gt=9, le=10)
    vehicle_as_planned: Planned
    predicted_height_mm: dict[CornerName, Height] = Field(min_length=4, max_length=4)
    measured_height_mm: dict[CornerName, Height] = Field(min_length=4, max_length=4)
    hypotheses: tuple[Annotated[RateOff | LoadAboard | Unseated, Field(discriminator="type")], ...] = Field(
        max_length=40
    )

    def answer(self) -> Answer:
        """Residuals, every hypothesis fitted in the order it was given, and their ranking."""
        v = self.vehicle_as_planned
        residual = np.array([self.measured_height_mm[c] - self.predicted_height_mm[c] for c in CORNERS])
        x, y = corner_places(v)
        vehicle = FourCorners(
            x, y, np.array([v.corner_sprung_load_N[c] for c in CORNERS]), per_corner(v, "spring_rate_N_per_mm"),
            per_corner(v, "installation_ratio"),
            (v.front.anti_roll_bar_rate_at_wheel_N_per_mm, v.rear.anti_roll_bar_rate_at_wheel_N_per_mm),
        )  # fmt: skip
        tried = [h.hypothesis() for h in self.hypotheses]
        ranked = explain(vehicle, residual, tried, self.gravity_m_per_s2)
        in_order = sorted(ranked, key=lambda e: tried.index(e.hypothesis))
        return {
            "residual_mm": dict(zip(CORNERS, residual.tolist(), strict=True)),
            "residual_squares_mm2_sum": float(residual @ residual),
            "fits": [as_answer(e) for e in in_order],
            "ranking_best_first": [e.hypothesis.label for e in ranked],
        }


def as_answer(e: Explanation) -> dict[str, Any]:
    """An explanation by name."""
    name = NAMES[e.hypothesis.kind]
    return {
        "label": e.hypothesis.label,
        name: e.parameter,
        f"linearised_{name}": e.linearised,
        "remaining_squares_mm2_sum": e.squares,
        "linearised_remaining_squares_mm2_sum": e.linearised_squares,
        "explained_share": e.share,
        "remaining_residual_mm": dict(zip(CORNERS, e.left.tolist(), strict=True)),
    }
