"""How each suspension kind comes apart and goes together again, whatever is changed on it."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace

from inclinum.core.car.vehicle import Axle
from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.kinematics.kinds import StrutLinkage


@dataclass(frozen=True)
class Task:
    """A step at one side, before the vehicle's own figures are put in.

    ``fasteners`` are the roles that are tightened here, ``phase`` one of the card's.
    """

    key: str
    phase: str
    text: str
    fasteners: tuple[str, ...] = ()
    caution: str | None = None
    hold: str | None = None
    people: int = 1
    minutes: tuple[float, float] = (2, 5)
    at_ride_height: bool = False
    both_first: bool = False
    """Done at both sides before anything else comes apart on either."""

    def without(self, keys: Collection[str]) -> "Task":
        """The same step leaving some fasteners hand tight for ride height."""
        kept = tuple(key for key in self.fasteners if key not in keys)
        if kept == self.fasteners:
            return self
        left = ", ".join(key.replace("_", " ") for key in self.fasteners if key in keys)
        text = self.text if kept else self.text.replace("to torque", "hand tight")
        return replace(self, fasteners=kept, text=f"{text} Only hand tight here, it clamps rubber: {left}.")


@dataclass(frozen=True)
class Routine:
    """Tasks of one kind, in order, and what they need."""

    apart: tuple[Task, ...]
    before_swap: tuple[Task, ...]
    after_swap: tuple[Task, ...]
    refit: tuple[Task, ...]
    at_height: tuple[Task, ...]
    tools: tuple[str, ...] = field(default=())
    consumables: tuple[str, ...] = field(default=())

    def for_fasteners(self, fasteners: Mapping[str, Fastener]) -> "Routine":
        """The routine with a vehicle's own fasteners where they belong.

        One that clamps rubber is tightened at ride height, wherever the routine would have it; one the routine does
        not know is tightened with those, or before, as its data say.
        """
        rubber = {key for key, f in fasteners.items() if f.at_ride_height}
        later = {key for task in (*self.after_swap, *self.refit) for key in task.fasteners if key in rubber}
        tightened = {
            key for task in (*self.after_swap, *self.refit, *self.at_height) for key in task.fasteners
        } | ON_WHEEL
        other = [key for key in fasteners if key not in tightened]
        refit = tuple(task.without(later) for task in self.refit)
        cold = tuple(key for key in other if key not in rubber)
        if cold:
            refit += (Task("others", "Refit loosely", f"{_OTHERS}, to torque.", cold, minutes=(2, 8)),)
        first, *rest = self.at_height
        warm = tuple(key for key in (*later, *other) if key in rubber)
        return replace(
            self,
            after_swap=tuple(task.without(later) for task in self.after_swap),
            refit=refit,
            at_height=(replace(first, fasteners=first.fasteners + warm), *rest),
        )


ON_WHEEL = {"wheel"}
"""Tightened on the ground, whatever comes apart."""
_OTHERS = "What else of this axle was undone, as the vehicle's data list it"

_COMPRESS = Task(
    "compress", "Swap", "Compress the spring until it is loose on its seats, then the rod nut.",
    caution=cautions.SPRING, hold="Spring loose on both seats before the rod nut is touched.",
    minutes=(8, 15),
)  # fmt: skip
_ROD_NUT = Task(
    "rod_nut", "Swap", "Top mount on, rod nut to torque, then ease the compressor off.", ("strut_rod_nut",),
    caution=cautions.SPRING, minutes=(8, 15),
)  # fmt: skip
_WHEEL_OFF = Task("wheel_off", "Take apart", "Wheel off.", minutes=(2, 4), both_first=True)
_LINK_OFF = Task(
    "link_off", "Take apart", "Anti-roll bar link off, both sides before anything else: the bar holds the arms up.",
    minutes=(4, 15), both_first=True,
)  # fmt: skip
_LINK_ON = Task(
    "link_on", "To ride height", "Anti-roll bar link on, wheel at ride height: it must go in without force.",
    ("anti_roll_link",), minutes=(3, 6),
)  # fmt: skip
_HOSES_ON = Task("hoses_on", "Refit loosely", "Hose, cable and wire back in their clips, not twisted.", minutes=(2, 4))

STRUT = Routine(
    apart=(
        _WHEEL_OFF,
        Task(
            "link_off", "Take apart",
            "Anti-roll bar link off its strut. Both sides before anything else: the bar holds the arms up.",
            minutes=(4, 20), both_first=True,
        ),
        Task(
            "hoses", "Take apart", "Unclip the brake hose and the wheel-speed wire from the strut; tie the hub up.",
            caution=cautions.HOSES, minutes=(3, 6),
        ),
        Task("scribe", "Take apart", "Scribe the strut clamp on the upright: that is the old camber.", minutes=(1, 2)),
        Task(
            "clamp_off", "Take apart", "Slacken the inner arm bolts one turn. Strut clamp bolts out.",
            caution=cautions.DRIVE_SHAFT, minutes=(6, 25),
        ),
        Task(
            "top_off", "Take apart", "Strut-top nuts last, the strut held from below.", caution=cautions.FALLING,
            people=2, minutes=(4, 8),
        ),
    ),
    before_swap=(
        _COMPRESS,
    ),
    after_swap=(
        _ROD_NUT,
    ),
    refit=(
        Task(
            "strut_in", "Refit loosely", "Strut up into the tower, top nuts to torque.", ("strut_top_nut",),
            people=2, minutes=(5, 10),
        ),
        Task(
            "clamp_in", "Refit loosely", "Clamp bolts in from the side they came out of; set to the scribe, to torque.",
            ("strut_clamp",), minutes=(6, 12),
        ),
        Task("hoses_on", "Refit loosely", "Hose and wire back in their clips, not twisted.", minutes=(2, 4)),
    ),
    at_height=(
        Task(
            "ride_height", "To ride height", "Jack under the arm until the hub is at ride height. Arm bolts to torque.",
            ("arm_pivot",), at_ride_height=True, minutes=(6, 10),
        ),
        Task(
            "link_on", "To ride height", "Anti-roll bar link on, wheel at ride height: it must go in without force.",
            ("anti_roll_link",), minutes=(3, 6),
        ),
    ),
    tools=("Spring compressor in test, with safety strap", "Hexagon key for the damper rod", "Ball-joint separator"),
    consumables=("Thread locker as the maker says", "Copper-free assembly paste for the clamp"),
)  # fmt: skip

SEMI_TRAILING = Routine(
    apart=(
        _WHEEL_OFF,
        Task(
            "link_off", "Take apart", "Anti-roll bar link off the arm, both sides before anything else.",
            minutes=(4, 15), both_first=True,
        ),
        Task(
            "hoses", "Take apart", "Unclip hose, hand-brake cable and sensor wire from the arm.",
            caution=cautions.HOSES, minutes=(3, 6),
        ),
        Task(
            "damper_off", "Take apart", "Jack under the arm, slacken the pivot bolts one turn, damper foot bolt out.",
            caution=cautions.FALLING, minutes=(5, 20),
        ),
        Task(
            "spring_out", "Take apart", "Lower the jack slowly until the spring is loose, then lift it out.",
            caution=cautions.SPRING, hold="Nobody in line with the spring until it is loose.",
            people=2, minutes=(6, 12),
        ),
    ),
    before_swap=(Task("seats", "Swap", "Clean both spring seats; look at the rubber isolators.", minutes=(2, 5)),),
    after_swap=(),
    refit=(
        Task(
            "spring_in", "Refit loosely", "Jack the arm up under the spring, watching both ends seat.",
            caution=cautions.SPRING, people=2, minutes=(5, 10),
        ),
        Task("damper_in", "Refit loosely", "Damper foot bolt in, hand tight.", minutes=(3, 6)),
        Task("hoses_on", "Refit loosely", "Hose, cable and wire back in their clips.", minutes=(2, 4)),
    ),
    at_height=(
        Task(
            "ride_height", "To ride height",
            "Jack under the arm until the hub stands at ride height. Pivot and damper bolts to torque.",
            ("arm_pivot", "damper_foot"), at_ride_height=True, minutes=(6, 10),
        ),
        Task(
            "link_on", "To ride height", "Anti-roll bar link on, wheel at ride height: it must go in without force.",
            ("anti_roll_link",), minutes=(3, 6),
        ),
    ),
    tools=("Second jack for the arm", "Pry bar"),
    consumables=("Rubber grease for the isolators",),
)  # fmt: skip

COIL_OVER = Routine(
    apart=(
        _WHEEL_OFF,
        _LINK_OFF,
        Task(
            "hoses", "Take apart", "Unclip the brake hose and the wheel-speed wire; tie the hub up.",
            caution=cautions.HOSES, minutes=(3, 6),
        ),
        Task(
            "unit_off", "Take apart", "Jack under the arm, foot bolt of the unit out, then its top nuts; lift it out.",
            caution=cautions.FALLING, people=2, minutes=(8, 25),
        ),
    ),
    before_swap=(
        _COMPRESS,
    ),
    after_swap=(
        _ROD_NUT,
    ),
    refit=(
        Task("unit_in", "Refit loosely", "Unit in, top nuts and foot bolt hand tight.", people=2, minutes=(6, 12)),
        _HOSES_ON,
    ),
    at_height=(
        Task(
            "ride_height", "To ride height",
            "Jack under the arm until the hub stands at ride height. Arm and foot bolts to torque.",
            ("arm_pivot", "damper_foot"), at_ride_height=True, minutes=(6, 10),
        ),
        _LINK_ON,
    ),
    tools=("Spring compressor in test, with safety strap", "Second jack for the arm"),
)  # fmt: skip

COIL_AXLE = Routine(
    apart=(
        _WHEEL_OFF,
        _LINK_OFF,
        Task(
            "hoses", "Take apart", "Frame on stands, axle on a jack. Unclip hose, wires, breather: none may carry it.",
            caution=cautions.HOSES, minutes=(4, 8),
        ),
        Task(
            "damper_off", "Take apart", "Damper foot off, the axle held by the jack.", caution=cautions.FALLING,
            minutes=(5, 20),
        ),
        Task(
            "spring_out", "Take apart", "Lower the axle slowly, both sides together, until the spring is loose; out.",
            caution=cautions.SPRING, hold="Nobody in line with the spring until it is loose.", people=2,
            minutes=(6, 15),
        ),
    ),
    before_swap=(Task("seats", "Swap", "Clean both spring seats; look at the rubber isolators.", minutes=(2, 5)),),
    after_swap=(),
    refit=(
        Task(
            "spring_in", "Refit loosely", "Axle up under the spring, watching both ends seat.",
            caution=cautions.SPRING, people=2, minutes=(5, 10),
        ),
        Task("damper_in", "Refit loosely", "Damper foot in, hand tight.", minutes=(3, 6)),
        _HOSES_ON,
    ),
    at_height=(
        Task(
            "ride_height", "To ride height",
            "Jack under the axle until it stands at ride height. Link, lateral-rod and damper bolts to torque.",
            ("arm_pivot", "lateral_rod", "damper_foot"), at_ride_height=True, minutes=(8, 14),
        ),
        _LINK_ON,
    ),
    tools=("Two jacks for the axle", "Pry bar"),
    consumables=("Rubber grease for the isolators",),
)  # fmt: skip

LEAF_AXLE = Routine(
    apart=(
        _WHEEL_OFF,
        Task(
            "hoses", "Take apart", "Frame on stands, axle on a jack just carrying it. Unclip hose, wires and breather.",
            caution=cautions.HOSES, minutes=(4, 8),
        ),
        Task("damper_off", "Take apart", "Damper foot off.", caution=cautions.FALLING, minutes=(5, 20)),
        Task(
            "u_bolts", "Take apart", "U-bolt nuts off crosswise, one side only; plate off. U-bolts are not used again.",
            caution=cautions.FALLING, hold="The other side stays clamped until this one is done.", people=2,
            minutes=(10, 40),
        ),
        Task(
            "pack_free", "Take apart", "Axle down until the pack hangs free of it; pack, shackle or block as planned.",
            caution=cautions.SPRING, people=2, minutes=(10, 40),
        ),
    ),
    before_swap=(
        Task("seats", "Swap", "Clean seat and centre-bolt hole; the bolt's head must sit in the seat.", minutes=(3, 6)),
    ),
    after_swap=(),
    refit=(
        Task(
            "pack_in", "Refit loosely", "Pack to the seat, centre bolt in its hole, new U-bolts hand tight crosswise.",
            people=2, minutes=(10, 20),
        ),
        Task("eyes", "Refit loosely", "Eye and shackle bolts in, hand tight.", minutes=(4, 8)),
        Task("damper_in", "Refit loosely", "Damper foot in, hand tight.", minutes=(3, 6)),
        _HOSES_ON,
    ),
    at_height=(
        Task(
            "ride_height", "To ride height",
            "On its wheels, or jacked to ride height: U-bolts crosswise in steps, then eyes, shackles, damper.",
            ("u_bolt", "spring_eye", "shackle", "damper_foot"), at_ride_height=True, minutes=(10, 18),
        ),
    ),
    tools=("Two jacks for the axle", "Deep sockets for the U-bolts"),
    consumables=("New U-bolts and nuts",),
)  # fmt: skip

TORSION_BAR = Routine(
    apart=(
        _WHEEL_OFF,
        _LINK_OFF,
        Task(
            "hoses", "Take apart", "Unclip hose and wires from the arm.", caution=cautions.HOSES, minutes=(3, 6),
        ),
        Task(
            "scribe", "Take apart", "Scribe bar, arm and anchor across each other at both ends: the old setting.",
            minutes=(2, 4),
        ),
        Task(
            "bar_unload", "Take apart",
            "Jack under the arm, damper foot out, then ease the arm down until the bar is without load.",
            caution=cautions.SPRING,
            hold="The arm is loaded until it hangs: it is held by jack and strap, and nobody is in its way.", people=2,
            minutes=(10, 30),
        ),
    ),
    before_swap=(Task("splines", "Swap", "Clean both splines; look for a cracked or twisted tooth.", minutes=(4, 10)),),
    after_swap=(),
    refit=(
        Task(
            "bar_in", "Refit loosely", "Bar home in both splines by the new marks; same count on the other side.",
            minutes=(8, 20),
        ),
        Task("damper_in", "Refit loosely", "Arm up, damper foot in, hand tight.", caution=cautions.SPRING,
             minutes=(4, 8)),
        _HOSES_ON,
    ),
    at_height=(
        Task(
            "ride_height", "To ride height", "Jack under the arm until the hub is at ride height. Bolts to torque.",
            ("arm_pivot", "damper_foot", "torsion_anchor"), at_ride_height=True, minutes=(6, 10),
        ),
        _LINK_ON,
    ),
    tools=("Second jack and a strap for the arm", "Scriber", "Angle gauge"),
    consumables=("Spline grease as the maker says",),
)  # fmt: skip

_BY_KIND: dict[str, Routine] = {
    "macpherson": STRUT,
    "double_wishbone": COIL_OVER,
    "leaf_axle": LEAF_AXLE,
}


def routine_of(axle: Axle) -> Routine:
    """How an axle comes apart: by what springs it where that decides, else by how its wheels are held."""
    if axle.spring.type == "torsion_bar":
        return TORSION_BAR
    if isinstance(axle.linkage, StrutLinkage) and axle.linkage.spring_on_arm:
        return SEMI_TRAILING  # a loose spring on an arm: the arm is held and let down
    return _BY_KIND.get(axle.linkage.kind) or (COIL_AXLE if axle.linkage.coupled else SEMI_TRAILING)
