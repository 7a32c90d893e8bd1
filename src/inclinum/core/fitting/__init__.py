"""A working geometry from tape and angle gauge: where the tape goes, fit, contradictions, and what to measure next."""

from inclinum.core.fitting.consequence import LIFT_MM, consequence_names
from inclinum.core.fitting.fit import Fit, Miss, Next, Reading, fit
from inclinum.core.fitting.tape import Place, places

__all__ = ["LIFT_MM", "Fit", "Miss", "Next", "Place", "Reading", "consequence_names", "fit", "places"]
