"""How each suspension kind comes apart and goes together again, whatever is changed on it."""

from dataclasses import dataclass, field

from inclinum.core.procedure import cautions


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


STRUT = Routine(
    apart=(
        Task("wheel_off", "Take apart", "Wheel off.", minutes=(2, 4), both_first=True),
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
        Task(
            "compress", "Swap", "Compress the spring until it is loose on its seats, then the rod nut.",
            caution=cautions.SPRING, hold="Spring loose on both seats before the rod nut is touched.",
            minutes=(8, 15),
        ),
    ),
    after_swap=(
        Task(
            "rod_nut", "Swap", "Top mount on, rod nut to torque, then ease the compressor off.", ("strut_rod_nut",),
            caution=cautions.SPRING, minutes=(8, 15),
        ),
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
        Task("wheel_off", "Take apart", "Wheel off.", minutes=(2, 4), both_first=True),
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

ROUTINES: dict[str, Routine] = {"macpherson": STRUT, "semi_trailing_arm": SEMI_TRAILING}
"""Routine by suspension kind."""
