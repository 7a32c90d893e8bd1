"""What holds a two-wheeler's ends together, from what its data say is there."""

from collections.abc import Iterable, Mapping

from inclinum.core.bike.machine import Bike
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.joints import Handling, Joint
from inclinum.core.document.errors import DomainError

DROPS = "The wheel and swing arm drop when the last bolt leaves: support them, fingers clear."
FORK_CAP = (
    "The cap is pushed by the spring, and by air: let the pressure out first, bar weight off, face away, both hands on "
    "the last threads."
)
COMPRESSOR = (
    "A compressed coil holds enough energy to kill. Compressor made for this size, two hooks opposite, nobody in line."
)
COLLAR = "A coil that still presses with its collar at the end is not pried off: it needs a compressor."
FORK_FOOT = (
    "The leg is pushed by its spring, and by air, and it is full of oil: pressure out, pan below, face away, the lower "
    "leg held."
)
WORDS: dict[str, tuple[str, ...]] = {
    "link": ("rod", "rocker"),
    "damper eyes": ("damper_lower",),
    "damper": ("damper_upper",),
    "spring": ("rear_spring",),
    "inside the fork": ("fork_foot", "fork_cap"),
    "fork caps": ("fork_cap",),
    "clamps": ("lower_clamp",),
    "wheels": ("rear_wheel", "front_wheel"),
}
"""What changes call their places, and which joints those are: the first, or all, of those a machine has."""
EITHER = {"inside the fork"}
"""Places that are reached by one of their joints alone."""
LOOSE_MM = 2.0
"""Thread past the collar with the spring just touching, from which on it comes loose by the collar alone."""


def freed_by_hand(bike: Bike) -> bool:
    """Whether its rear spring is loose with the collar at the end of its thread; not where nobody counted that."""
    left = bike.damper.threads_at_zero_mm
    return left is not None and left >= LOOSE_MM


def joints_of(bike: Bike) -> dict[str, Joint]:
    """Joints by key, in the order in which they are usually opened."""
    each = " One side after the other, so that the other holds the arm." if bike.damper.count == 2 else ""
    drive = "drive" if bike.drive.kind == "none" else bike.drive.kind
    found = (
        Joint(
            "weight_off",
            Handling("Block under the rear wheel so that the damper carries nothing: its bolt turns by hand.", DROPS,
                     "The bolt turns by hand before it is pulled.", minutes=(4, 8)),
            Handling("Swing arm through its whole travel by hand, spring off or compressed by two: nothing touches, "
                     "nothing binds. Then the block out.", people=2, minutes=(3, 8)),
            stored=True,
        ),
        Joint(
            "rod",
            Handling("Rod off first, each bolt marked with where it was.", minutes=(4, 12)),
            Handling("Rod on, bolt-head flats against the casting, to torque with the swing arm where it carries the "
                     "machine. Grease until it shows at every seal.", minutes=(4, 8)),
            needs=("weight_off",), fasteners=("rod_bolts",), consumables=("Grease for needle bearings",),
        ),
        Joint(
            "rocker",
            Handling("Rocker from its pivot. Needle rollers kept in their sleeves, seals set aside in order.",
                     minutes=(6, 18)),
            Handling("Rocker on its pivot, seals in their order, greased; it swings freely, then to torque.",
                     minutes=(4, 8)),
            needs=("rod",), fasteners=("rocker_pivot_bolt",), consumables=("Grease for needle bearings",),
        ),
        Joint(
            "damper_lower",
            Handling(f"Lower eye of the damper off.{each}", minutes=(3, 10)),
            Handling("Lower eye of the damper on, bolt from the side it came, to torque.", minutes=(3, 6)),
            needs=("weight_off",), fasteners=("damper_lower_bolt",),
        ),
        Joint(
            "damper_upper",
            Handling("Upper eye off, damper out. Reservoir and hose carried, never hung.", minutes=(3, 10)),
            Handling("Damper in, upper eye on, to torque.", minutes=(3, 6)),
            needs=("damper_lower",), fasteners=("damper_upper_bolt",),
        ),
        _spring_by_hand() if freed_by_hand(bike) else _spring_pressed(),
        Joint(
            "rear_wheel",
            Handling(f"Rear wheel out; {drive} free, brake held.", minutes=(5, 12)),
            Handling(f"Rear wheel in, {drive} on, its axle to torque; it turns free.", minutes=(6, 12)),
            fasteners=("rear_axle",),
        ),
        Joint(
            "front_wheel",
            Handling("Front wheel out, caliper tied up, never hung on its hose.", minutes=(4, 10)),
            Handling("Front wheel in; the axle slides in without force, then to torque; it turns free.",
                     minutes=(5, 10)),
            fasteners=("front_axle",),
        ),
        Joint(
            "top_clamp",
            Handling("Top clamp slack, the lower one still holding: it must not pinch tube or cap.", minutes=(2, 4)),
            Handling("Top clamp to torque, evenly.", minutes=(2, 4)),
            fasteners=("top_clamp_bolt",),
        ),
        _from_above(),
        Joint(
            "lower_clamp",
            Handling("Lower clamp slack one leg at a time, the tube held.", "The machine sinks on a tube that slips: "
                     "weight off the fork first.", minutes=(2, 4)),
            Handling("Lower clamp to torque, evenly.", minutes=(2, 4)),
            needs=("top_clamp",), fasteners=("lower_clamp_bolt",),
        ),
        *(_from_below() if bike.fork.opened_from == "below" else ()),
    )  # fmt: skip
    missing = {"rod"} if not bike.rear.rods else set()
    if "rocker" not in bike.rear.members():
        missing |= {"rocker"}
    return {j.key: j for j in found if j.key not in missing}


def _spring_pressed() -> Joint:
    return Joint(
        "rear_spring",
        Handling("Collar back, spring compressed until its seat is free.", COMPRESSOR,
                 "Spring loose on both seats before the seat clip is touched.", minutes=(6, 15)),
        Handling("Clip and seat home, spring eased down on both seats.", COMPRESSOR, minutes=(4, 8)),
        needs=("damper_upper",), stored=True, tools=("Spring compressor of the right size",),
    )  # fmt: skip


def _spring_by_hand() -> Joint:
    return Joint(
        "rear_spring",
        Handling("Thread that shows written down. Collar back by hand to the end of its thread: the coil hangs loose; "
                 "clip and seat off, coil out. No compressor.", COLLAR,
                 "Play at both seats before the clip is touched.", minutes=(3, 8)),
        Handling("Seats greased, coil on, clip home all round; collar up by hand until there is no play.",
                 minutes=(3, 8)),
        needs=("damper_upper",), stored=True, consumables=("Grease for the spring seats",),
    )  # fmt: skip


def _from_above() -> Joint:
    return Joint(
        "fork_cap",
        Handling("Caps cracked while the lower clamp still holds the tubes, one leg at a time; pressure let out.",
                 FORK_CAP, "Pressure out and weight off before a cap is turned.", minutes=(5, 12)),
        Handling("Both legs compared: tube above the clamp, oil level, spacer. Caps on, thread started backwards, "
                 "to torque.", hold="Both legs equal before the caps are tight.", minutes=(5, 10)),
        needs=("top_clamp",), fasteners=("fork_cap",), stored=True, consumables=("Fork oil",),
        tools=("Socket for the fork caps", "Oil height gauge", "Measuring jug"),
    )  # fmt: skip


def _from_below() -> tuple[Joint, ...]:
    return (
        Joint(
            "fork_guard",
            Handling("Mudguard, calipers and their lines off the legs, tied up; nothing hangs on a hose.",
                     minutes=(5, 15)),
            Handling("Mudguard and calipers on, lines in their clips, to torque.", minutes=(5, 10)),
            needs=("front_wheel",), fasteners=("caliper_bolt",),
        ),
        Joint(
            "fork_foot",
            Handling("One leg at a time: drain it, pressure out, then its foot bolt, the rod held; lower leg drawn off "
                     "downwards.", FORK_FOOT, "Pressure out and fork at full extension before a foot bolt is turned.",
                     minutes=(8, 20)),
            Handling("Both legs compared: oil, spacer, spring. Lower leg up over the seal without force, foot bolt "
                     "with a new sealing washer, to torque.", hold="Both legs equal before the foot bolts are tight.",
                     minutes=(8, 15)),
            needs=("fork_guard",), fasteners=("fork_foot_bolt",), stored=True,
            consumables=("Fork oil", "New sealing washers for the foot bolts"),
            tools=("Holder for the damping rod", "Drain pan", "Oil height gauge", "Measuring jug"),
        ),
    )  # fmt: skip


def reached(word: str, joints: Mapping[str, Joint]) -> tuple[str, ...]:
    """Keys of the joints that a change's word for its place means.

    Args:
        word: one of :data:`WORDS`.
        joints: those the machine has.

    Raises:
        DomainError: no such place.
    """
    if word not in WORDS:
        raise DomainError(f"No change is done at “{word}”; there are {', '.join(WORDS)}.")
    there = tuple(key for key in WORDS[word] if key in joints)
    return there[:1] if word in EITHER else there


def fastener_of(bike: Bike, role: str) -> Fastener:
    """The fastener of a role; one nobody has a figure for is still tightened, by a looked-up one."""
    return bike.fasteners.get(role) or Fastener(name=role.replace("_", " "))


def roles_of(joints: Iterable[Joint]) -> set[str]:
    """Keys of the machine's data that joints take their figures from."""
    return {role for j in joints for role in j.fasteners}
