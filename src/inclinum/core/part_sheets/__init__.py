"""One part on the bench: a spring, a stack, a pack, a bar, a bag or brackets, worked out on their own.

Each sheet is a document with everything that goes in, and answers with everything that comes out, both named with
their units. They are what a job's vehicle is put together from, for when one part is all that is asked about.
"""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core.part_sheets.air_levelling import AirLevelling
from inclinum.core.part_sheets.alignment import AlignmentSheet
from inclinum.core.part_sheets.base import Sheet
from inclinum.core.part_sheets.body_attitude import BodyAttitude
from inclinum.core.part_sheets.corner import CoilWireSheet, SpacersSheet, SpringSwapSheet
from inclinum.core.part_sheets.damper_brackets import DamperBrackets
from inclinum.core.part_sheets.dual_rate_stack import DualRateStackSheet
from inclinum.core.part_sheets.fork import ForkSheet
from inclinum.core.part_sheets.leaf_pack import LeafPackSheet
from inclinum.core.part_sheets.progressive_coil import ProgressiveCoilSheet
from inclinum.core.part_sheets.rake_trail_stand import RakeTrailStand
from inclinum.core.part_sheets.rear_linkage import RearLinkage
from inclinum.core.part_sheets.reconcile import Reconcile
from inclinum.core.part_sheets.stations import Stations
from inclinum.core.part_sheets.torsion_bar import TorsionBarSheet
from inclinum.core.part_sheets.uncertainty import Uncertainty
from inclinum.core.part_sheets.whole_vehicle import WholeVehicle

AnySheet = Annotated[
    CoilWireSheet
    | SpringSwapSheet
    | SpacersSheet
    | Stations
    | Uncertainty
    | Reconcile
    | ProgressiveCoilSheet
    | DualRateStackSheet
    | LeafPackSheet
    | TorsionBarSheet
    | AirLevelling
    | DamperBrackets
    | WholeVehicle
    | BodyAttitude
    | AlignmentSheet
    | RearLinkage
    | ForkSheet
    | RakeTrailStand,
    Field(discriminator="kind"),
]
SHEETS: dict[str, type[Sheet]] = {k.model_fields["kind"].default: k for k in get_args(get_args(AnySheet)[0])}

__all__ = ["SHEETS", "AnySheet", "Sheet"]
