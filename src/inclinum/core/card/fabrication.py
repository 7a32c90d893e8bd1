"""What is bolted on, let into the body, or cut and welded: each its routine, before the part goes on and after.

Of cutting and welding the tool says the order and what it stops for; how a seam is made, what it has to carry and who
may make it is for a licensed welder, the maker's repair instructions and local rules.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from inclinum.core.card import cautions
from inclinum.core.card.joints import Handling

How = Literal["bolted_on", "body_work", "cut_and_welded"]


@dataclass(frozen=True)
class Routine:
    """Steps around a part.

    Args:
        before: where the part goes, its place open and the part in hand.
        after: before it goes on the road.
        driven: when it was on the road.
    """

    before: tuple[Handling, ...] = ()
    after: tuple[Handling, ...] = ()
    driven: tuple[Handling, ...] = ()

    @property
    def one_way(self) -> bool:
        """Whether it leaves a mark that is not put back: what is bolted on has no routine."""
        return bool(self.before or self.after or self.driven)


BOLTED = Routine()


@lru_cache(maxsize=256)
def routine(how: How, what: str, drill_mm: float | None = None) -> Routine:
    """The routine of a part.

    Args:
        how: it is fixed.
        what: the part, as it stands at the beginning of a sentence.
        drill_mm: holes it wants, mm; None where its maker's template says.
    """
    match how:
        case "bolted_on":
            return BOLTED
        case "body_work":
            return _let_in(what, drill_mm)
        case "cut_and_welded":
            return Routine(_cut_and_tacked(what), (WELDED,))


def welded_once_proven(what: str) -> Routine:
    """What was bolted on, welded after the road: by those who hold that bolts alone work loose."""
    ready = Handling(
        f"{what}: proven on its bolts, marks unmoved? {_BARE} Welded by a licensed welder; its bolts stay in, checked "
        f"to torque when cold. {PROVEN}", cautions.WELDING, "Not welded before it was driven and measured: from here "
        "it does not go back.", people=2, minutes=(30, 90),
    )  # fmt: skip
    return Routine(driven=(ready, WELDED))


PROVEN = "This shop welds brackets once they are proven; bolts to torque alone, the default, still come off again."
_BARE = "Battery off, control units nearby unplugged, paint and rust off to clean metal as far as it gets hot."
WELDED = Handling(
    "Welds cold and looked at by whoever inspects them here; sealed, painted, hollow parts waxed again. Battery on, "
    "fault stores read.", cautions.INSPECTED, "Not on the road before the inspection that local rules ask for.",
    minutes=(20, 60),
)  # fmt: skip


def _cut_and_tacked(what: str) -> tuple[Handling, ...]:
    return (
        Handling(
            f"{what}: both places marked from the same edges left and right, cut line scribed, photographed as it was. "
            "Rusted or cracked metal there is a finding, and nothing is welded to it.", minutes=(10, 25),
            hold="Nothing is cut before both sides measure alike, from two edges each.",
        ),
        Handling(
            f"Lines, wires, tank and trim near it off or covered; {_BARE[0].lower()}{_BARE[1:]} Extinguisher in reach, "
            "and a second person who looks at the far side.", cautions.WELDING,
            "No spark before the second person says clear.", people=2, minutes=(15, 40),
        ),
        Handling(
            "Cut outside the line, ground to it. Tacked, measured against the marks once more, then welded by a "
            "licensed welder, with what the maker's repair instructions say of that metal.", cautions.WELDING,
            "Only tacks until left and right measure alike.", people=2, minutes=(40, 120),
        ),
        Handling("Watched for fire until it is cold, both sides and inside.", minutes=(15, 40)),
    )  # fmt: skip


def _let_in(what: str, drill_mm: float | None) -> Routine:
    hole = f"to {drill_mm:g} mm" if drill_mm else "to the size its template says"
    return Routine((
        Handling(
            f"{what}: template or part held on with tape, level and the same left and right. Full bump and both locks, "
            "doors and lids opened: nothing touches.", minutes=(10, 30), people=2,
            hold="Nothing is drilled or cut before the trial fit is right: it does not go back.",
        ),
        Handling(
            f"Look behind: wires, airbags, belts, tank, closed sections. Centres punched, drilled small, then {hole}; "
            "cuts along tape, outside the line first.", "Eyes covered. Airbags and belt tensioners only by those "
            "licensed for them.", minutes=(15, 60),
        ),
        Handling(
            "Every edge deburred, primed and painted, no bare metal left; dry before it goes together. Seal under each "
            "bolt.", minutes=(20, 60),
        ),
    ))  # fmt: skip
