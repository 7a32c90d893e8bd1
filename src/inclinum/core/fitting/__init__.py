"""A working geometry from tape and angle gauge: guided sheet, fit, contradictions, and what to measure next."""

from inclinum.core.fitting.consequence import LIFT_MM, consequence_names
from inclinum.core.fitting.fit import Fit, Miss, Next, Reading, fit
from inclinum.core.fitting.fitted_axle import AxleFit, Consequence, FitMiss, FitNext, SheetRow, fit_axle
from inclinum.core.fitting.tape import Place, places

__all__ = [
    "LIFT_MM",
    "AxleFit",
    "Consequence",
    "Fit",
    "FitMiss",
    "FitNext",
    "Miss",
    "Next",
    "Place",
    "Reading",
    "SheetRow",
    "consequence_names",
    "fit",
    "fit_axle",
    "places",
]
