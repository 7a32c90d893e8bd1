"""A progressive coil from callipers: its groups, when they close, and its force table."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.part_sheets.base import Answer, Length, Modulus, Sheet
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS, wire_rate
from inclinum.core.springs.progressive import CoilGroup, ProgressiveCoil


class Group(Document):
    """Coils of one diameter and one clearance."""

    label: str = Field(min_length=1, max_length=40)
    mean_diameter_mm: Length
    active_coils: float = Field(gt=0.1, le=40)
    clearance_per_coil_mm: float = Field(gt=0, le=200)


class ProgressiveCoilSheet(Sheet):
    """Groups of coils of one wire.

    Source: torsion of a round wire for each group (EN 13906-1); groups in series, 1/k = Σ 1/kᵢ over those still
    open, each closing at its own travel.
    """

    kind: Literal["progressive-coil"] = "progressive-coil"
    G_N_per_mm2: Modulus = STEEL_SHEAR_MODULUS
    wire_diameter_mm: float = Field(gt=0.5, le=60)
    groups: tuple[Group, ...] = Field(min_length=1, max_length=20)
    spring_shortening_mm: tuple[float, ...] = Field(default=(), max_length=500)

    def answer(self) -> Answer:
        """Rates of the groups and stages, closings, and the force table."""
        rates = [
            wire_rate(self.wire_diameter_mm, g.mean_diameter_mm, g.active_coils, self.G_N_per_mm2) for g in self.groups
        ]
        travels = [g.active_coils * g.clearance_per_coil_mm for g in self.groups]
        coil = ProgressiveCoil([CoilGroup(k, c) for k, c in zip(rates, travels, strict=True)], coil_length := 1000.0)
        spring, asked = coil.spring(), np.array(self.spring_shortening_mm, dtype=float)
        within = asked <= coil.total_shortening + 1e-9
        force = spring.force(coil_length - asked)
        return {
            "group_rates_N_per_mm": rates,
            "group_shortening_when_closed_mm": travels,
            "closing_order": [
                {
                    "group": self.groups[c.group].label,
                    "closes_at_force_N": c.force,
                    "closes_at_shortening_mm": c.shortening,
                }
                for c in coil.closings
            ],
            "stage_rates_N_per_mm": coil.stage_rates,
            "total_shortening_to_solid_mm": coil.total_shortening,
            "force_table": {
                "spring_shortening_mm": asked.tolist(),
                "force_N": [float(f) if ok else None for f, ok in zip(force, within, strict=True)],
                "rate_N_per_mm": [coil.rate_at(float(x)) if ok else None for x, ok in zip(asked, within, strict=True)],
            },
        }
