"""Force as a function of length, for every kind of spring and stop."""

from inclinum.core.springs.air import AirBag, LevelSensor
from inclinum.core.springs.bump_stop import BumpStop, TableStop, TopOut
from inclinum.core.springs.coil import CoilSpring, bind_margin_wanted, wire_rate, wire_solid_length
from inclinum.core.springs.leaf import LeafPack, leaf_rate
from inclinum.core.springs.progressive import CoilGroup, ProgressiveCoil
from inclinum.core.springs.spring import PerSample, PiecewiseSpring, Spring, Toleranced
from inclinum.core.springs.stack import DualRateStack, StackSpring
from inclinum.core.springs.torsion import Splines, TrailingTorsion, bar_rate

__all__ = [
    "AirBag",
    "BumpStop",
    "CoilGroup",
    "CoilSpring",
    "DualRateStack",
    "LeafPack",
    "LevelSensor",
    "PerSample",
    "PiecewiseSpring",
    "ProgressiveCoil",
    "Splines",
    "Spring",
    "StackSpring",
    "TableStop",
    "Toleranced",
    "TopOut",
    "TrailingTorsion",
    "bar_rate",
    "bind_margin_wanted",
    "leaf_rate",
    "wire_rate",
    "wire_solid_length",
]
