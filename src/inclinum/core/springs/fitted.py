"""What hangs on an axle, as documents: springs of every kind, dampers, stops."""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core.springs.dampers import BumpStopData, DamperData, TopOutData
from inclinum.core.springs.fitted_coils import (
    Coil,
    CoilGroupData,
    CoilWire,
    ProgressiveCoilData,
    SpringTable,
    StackCoil,
    StackData,
)
from inclinum.core.springs.fitted_leaves_bars_bags import AirSpringData, LeafHelper, LeafPackData, TorsionBarData
from inclinum.core.springs.fitted_spring import Dimension, FittedSpring, RateStep, SeatedSpring

SpringData = Annotated[
    Coil | ProgressiveCoilData | StackData | SpringTable | LeafPackData | TorsionBarData | AirSpringData,
    Field(discriminator="type"),
]
SPRINGS: dict[str, type[FittedSpring]] = {k.model_fields["type"].default: k for k in get_args(get_args(SpringData)[0])}
"""Every kind of spring by its name in a job file."""

__all__ = [
    "SPRINGS",
    "AirSpringData",
    "BumpStopData",
    "Coil",
    "CoilGroupData",
    "CoilWire",
    "DamperData",
    "Dimension",
    "FittedSpring",
    "LeafHelper",
    "LeafPackData",
    "ProgressiveCoilData",
    "RateStep",
    "SeatedSpring",
    "SpringData",
    "SpringTable",
    "StackCoil",
    "StackData",
    "TopOutData",
    "TorsionBarData",
]
