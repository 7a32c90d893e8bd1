"""What holds an axle of a four-wheeler together, from what the vehicle's data say is there."""

from collections.abc import Callable, Iterable
from dataclasses import replace

from inclinum.core.car.stance import axle_corner
from inclinum.core.car.vehicle import Axle
from inclinum.core.card import cautions
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.joints import Handling, Joint
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES, Side
from inclinum.core.kinematics import ArmAngle, PointDistance, pair_name
from inclinum.core.kinematics.kinds import StrutLinkage
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.kinematics.refit import frame_points
from inclinum.core.springs.fitted import AirSpringData, LeafPackData, StackData, TorsionBarData

NAMES = {
    "wheel": "wheel bolt", "anti_roll_link": "anti-roll link nut", "arm_pivot": "arm pivot bolt",
    "lateral_rod": "lateral rod bolt", "strut_clamp": "strut clamp bolt", "strut_top_nut": "strut-top nut",
    "strut_rod_nut": "damper rod nut", "damper_foot": "damper foot bolt", "damper_top": "damper top nut",
    "u_bolt": "U-bolt nut", "spring_eye": "spring-eye bolt", "shackle": "shackle bolt",
    "torsion_anchor": "torsion-bar anchor bolt", "torsion_adjuster": "torsion adjuster's lock nut",
    "bump_stop": "bump stop bolt", "subframe": "subframe bolt", "prop_shaft": "propeller-shaft flange bolt",
}  # fmt: skip
"""Roles in words, where the vehicle's data name no bolt for them."""
HOLD_A_BAG = ("damper_foot", "damper_top", "clamp", "strut_top", "spring_on_unit", "spring_seat")
LEAF_POINTS = ("fixed_eye", "seat", "shackle_eye", "shackle_body")


INSIDE = "spring_on_unit"
"""The joint behind which the spring of a unit is."""


def has_collar(axle: Axle) -> bool:
    """Whether a collar on a thread frees the springs of its units."""
    return axle.damper.collar or isinstance(axle.spring, StackData)


def joints_of(axle: Axle, *, collared: bool = False) -> dict[str, Joint]:
    """Joints of one side of an axle by key, in the order in which they are usually opened.

    Args:
        axle: as it came.
        collared: whether its springs are freed by a collar.
    """
    found = {"wheel": _WHEEL}

    def add(*joints: Joint) -> None:
        found.update({j.key: j for j in joints})

    if has_bar(axle):
        add(_LINK)
    add(_lines(axle))
    add(*_pivots(axle))
    if isinstance(axle.linkage, StrutLinkage):
        add(_CLAMP, _STRUT_TOP)
    elif axle_corner(axle).damper is not None:
        add(*_dampers(axle))
    spring = _spring(axle, collared or has_collar(axle))
    add(*spring)
    free = next((j.key for j in spring if j.key in ("spring_seat", "bar")), None)
    add(*_arms(axle, free), *_others(axle))
    if "air" not in found:
        return found
    # What ends its droop or holds it down comes off a bag only once it is empty: nobody carries a unit under pressure.
    emptied = {key: replace(found[key], needs=(*found[key].needs, "air")) for key in HOLD_A_BAG if key in found}
    return found | {"air": replace(found["air"], needs=("wheel",))} | emptied


def has_bar(axle: Axle) -> bool:
    """Whether an anti-roll bar links its wheels, as far as anybody said."""
    return bool(axle.anti_roll_n_per_mm or axle.anti_roll_link or "anti_roll_link" in axle.fasteners)


def captive(axle: Axle) -> bool:
    """Whether its spring is held by its damper: out of the vehicle it is still pressed."""
    return _unit(axle) and axle.spring.is_coil


def _unit(axle: Axle) -> bool:
    """Whether spring and damper are one unit, a coil or a bag around the rod."""
    return stand_together(axle.linkage) and (axle.spring.is_coil or on_air(axle))


def on_air(axle: Axle) -> bool:
    """Whether air carries it."""
    return isinstance(axle.spring, AirSpringData)


def reached(axle: Axle, word: str, side: Side = "left") -> tuple[str, ...]:
    """Keys of the joints that a change's word for its place means on an axle.

    Args:
        axle: as it came.
        word: one of :data:`WORDS`, or ``point:`` with the name of a point of the suspension.
        side: that is worked on.

    Raises:
        DomainError: no such place.
    """
    if word.startswith("point:"):
        return _at_point(axle, on_side(axle, word.removeprefix("point:"), side))
    if word not in WORDS:
        raise DomainError(f"No change is done at “{word}”; there are {', '.join(WORDS)}.")
    return WORDS[word](axle)


def fastener_of(axle: Axle, key: str) -> Fastener:
    """The fastener of a role; one the vehicle's data does not have is still tightened, by a looked-up figure."""
    given = axle.fasteners.get(key)
    if given is None and key.startswith("point:"):
        point = key.removeprefix("point:")
        given = axle.fasteners.get(point) or axle.fasteners.get("ball_joint")
        return (given or Fastener(name="nut")).model_copy(update={"name": f"{pair_name(point)} nut"})
    if key == "arm_pivot" and not _independent(axle):
        return given or Fastener(name="link bolt")
    return given or Fastener(name=NAMES.get(key, key.replace("_", " ")))


def roles_of(joints: Iterable[Joint]) -> set[str]:
    """Keys of the vehicle's data that joints take their figures from."""
    roles = {r for j in joints for r in j.fasteners}
    points = {r.removeprefix("point:") for r in roles if r.startswith("point:")}
    return roles | points | ({"ball_joint"} if points else set())


def points_of(axle: Axle, key: str) -> tuple[str, ...]:
    """Names of the hardpoints a joint lies between, for its place in a drawing; none where no point tells it."""
    corner = axle_corner(axle)
    damper, spring = corner.damper, corner.spring
    ends = (damper.start, damper.end) if damper is not None else ()
    inner = tuple(dict.fromkeys(m[1] for m in axle.linkage.members() if m[0] in ("arm", "rod")))
    places: dict[str, tuple[str, ...]] = {
        "wheel": (corner.wheel,), "lines": (corner.wheel,), "anti_roll_link": ends[1:], "stop": ends,
        "clamp": ends[1:], "damper_foot": ends[1:], "strut_top": ends[:1], "damper_top": ends[:1],
        "u_bolts": ("seat",), "pack": ("fixed_eye",), "shackle": ("shackle_eye",), "pivots": inner[:1],
        "subframe": inner, "lateral_rod": tuple(n for n in inner if "lateral" in n), "prop_shaft": (corner.wheel,),
    }  # fmt: skip
    if isinstance(spring, PointDistance):
        places |= dict.fromkeys(("spring_on_unit", "spring_seat", "air"), (spring.start, spring.end))
    elif isinstance(spring, ArmAngle):
        places |= dict.fromkeys(("bar", "adjuster"), (spring.first,))
    return tuple(n for n in places.get(key, (key,)) if n in corner.body.points)


def together(axle: Axle) -> bool:
    """Whether both its sides come apart at once: an axle that is let down off loose springs drops as one piece."""
    return axle.linkage.coupled and not isinstance(axle.spring, LeafPackData)


def _independent(axle: Axle) -> bool:
    return not axle.linkage.coupled


def _jack(axle: Axle) -> str:
    return "arm" if _independent(axle) else "axle"


_WHEEL = Joint(
    "wheel", Handling("Wheel off.", minutes=(2, 4)), Handling("Wheel on, bolts crosswise by hand.", minutes=(2, 3)),
    fasteners=("wheel",), on_ground=True, both_first=True,
)  # fmt: skip
_LINK = Joint(
    "anti_roll_link",
    Handling("Anti-roll bar link off, both sides before anything else: the bar holds the arms up.", minutes=(4, 20)),
    Handling("Anti-roll bar link on, wheel at ride height: it must go in without force.", minutes=(3, 6)),
    needs=("wheel",), fasteners=("anti_roll_link",), both_first=True, with_load=True,
)  # fmt: skip


def _lines(axle: Axle) -> Joint:
    named = ", ".join(dict.fromkeys(line.name for line in axle.lines)) or "brake hose, cable and sensor wire"
    held = "tie the hub" if _independent(axle) else "frame on stands, axle on its jack"
    return Joint(
        "lines",
        Handling(f"Unclip {named}; {held}. None of them may carry it.", cautions.HOSES, minutes=(3, 6)),
        Handling(f"Back in their clips, not twisted: {named}.", minutes=(2, 4)),
        needs=("wheel",),
    )


def _hangs(*more: str) -> tuple[str, ...]:
    """What is open before a hub or an axle is let hang lower than it does by itself."""
    return ("wheel", "anti_roll_link", "lines", *more)


def _pivots(axle: Axle) -> list[Joint]:
    """Inner ends that clamp rubber: slack before the height changes, tight at the new one."""
    leaf = isinstance(axle.spring, LeafPackData)
    ends = [m for m in axle.linkage.members() if m[0] in ("arm", "rod") and m[1] not in LEAF_POINTS]
    if not ends and not leaf:
        return []
    across = any("lateral" in end for m in ends for end in m[1:])
    roles = ("spring_eye",) if leaf else ("arm_pivot",)
    what = "Spring-eye bolts" if leaf else "Arm bolts" if _independent(axle) else "Link bolts"
    return [
        Joint(
            "pivots",
            Handling(f"{what} slack by a turn: what they clamp is rubber, and turns with them.", minutes=(2, 10)),
            Handling(f"{what} hand tight.", minutes=(1, 2)),
            needs=("wheel",),
            fasteners=roles,
            rubber=True,
        ),
        *([_LATERAL] if across else []),
    ]


_LATERAL = Joint(
    "lateral_rod",
    Handling("Lateral rod's bolts slack by a turn: they clamp rubber too.", minutes=(2, 6)),
    Handling("Lateral rod's bolts hand tight.", minutes=(1, 2)),
    needs=("wheel",), fasteners=("lateral_rod",), rubber=True, shared=True,
)  # fmt: skip
_CLAMP = Joint(
    "clamp",
    Handling(
        "Scribe the strut clamp on the upright: that is the old camber. Clamp bolts out, the hub tied.",
        cautions.DRIVE_SHAFT, minutes=(6, 25),
    ),
    Handling("Clamp bolts in from the side they came out of; set to the scribe, to torque.", minutes=(6, 12)),
    needs=_hangs(), fasteners=("strut_clamp",), tools=("Scriber",),
    consumables=("Copper-free assembly paste for the clamp",),
)  # fmt: skip
_STRUT_TOP = Joint(
    "strut_top",
    Handling("Strut-top nuts last, the strut held from below.", cautions.FALLING, people=2, minutes=(4, 8)),
    Handling("Strut up into the tower, top nuts to torque.", people=2, minutes=(5, 10)),
    needs=("clamp",), fasteners=("strut_top_nut",),
)  # fmt: skip


def _dampers(axle: Axle) -> list[Joint]:
    """Both ends of a damper, or of a unit, that holds no wheel."""
    what = "unit" if _unit(axle) else "damper"
    top = "strut_top_nut" if axle.strut_top is not None or "strut_top_nut" in axle.fasteners else "damper_top"
    return [
        Joint(
            "damper_foot",
            Handling(
                f"Jack under the {_jack(axle)}, just carrying it; foot bolt of the {what} out.", cautions.FALLING,
                minutes=(5, 20),
            ),
            Handling(f"Foot bolt of the {what} in, hand tight.", minutes=(3, 6)),
            needs=_hangs(), fasteners=("damper_foot",), rubber=True, tools=(f"Second jack for the {_jack(axle)}",),
        ),
        Joint(
            "damper_top",
            Handling(
                f"Top of the {what} off, {what} held; lift it out.", cautions.FALLING, people=2, minutes=(4, 10)
            ),
            Handling(f"{what.capitalize()} in, its top to torque.", people=2, minutes=(4, 8)),
            needs=("wheel", "damper_foot"), fasteners=(top,),
        ),
    ]  # fmt: skip


def _spring(axle: Axle, collared: bool) -> list[Joint]:
    """What holds the spring back, and how it is let go."""
    damper = "clamp" if isinstance(axle.linkage, StrutLinkage) else "damper_foot"
    out = "strut_top" if damper == "clamp" else "damper_top"
    if captive(axle):
        return [_on_unit(out, collared)]
    if _unit(axle):
        return [_AIR, _bag_on_unit(out)]
    if isinstance(axle.spring, LeafPackData):
        return _leaf(axle)
    if isinstance(axle.spring, TorsionBarData):
        return _torsion()
    found = []
    needs = _hangs(damper, "pivots", "lateral_rod")
    if on_air(axle):
        found.append(_AIR)
        needs += ("air",)
    loose = "bag is slack" if found else "spring is loose"
    down = "Lower the jack slowly" if _independent(axle) else "Lower the axle slowly, both sides together, wood between"
    return [
        *found,
        Joint(
            "spring_seat",
            Handling(
                f"{down}, until the {loose} on both seats; then take it out. Clean both seats.",
                None if found else cautions.SPRING,
                "Nobody in line with the spring until it is loose: jack and strap hold what it pushes.",
                people=2,
                minutes=(6, 15),
            ),
            Handling(
                f"{_jack(axle).capitalize()} up under the spring, watching both ends seat.",
                None if found else cautions.SPRING,
                people=2,
                minutes=(5, 10),
            ),
            needs=needs,
            stored=True,
            tools=("Pry bar",),
            consumables=("Rubber grease for the isolators",),
        ),
    ]


def _on_unit(out: str, collared: bool) -> Joint:
    rod = ("strut_rod_nut",)
    if collared:
        return Joint(
            "spring_on_unit",
            Handling(
                "Write down the thread that shows. Collar back by hand spanner until the spring is loose on its seats, "
                "then the rod nut; no compressor.",
                cautions.SPRING,
                "Spring loose before the rod nut is touched. If it still presses with the collar at its end, stop: "
                "it needs a compressor.", minutes=(6, 12),
            ),
            Handling("Top on, rod nut to torque, collar up until there is no play, tails in their pockets.",
                     minutes=(6, 12)),
            needs=(out,), fasteners=rod, stored=True,
            tools=("Two collar spanners", "Hexagon key for the damper rod"),
        )  # fmt: skip
    return Joint(
        "spring_on_unit",
        Handling("Compress the spring until it is loose on its seats, then the rod nut.", cautions.SPRING,
                 "Spring loose on both seats before the rod nut is touched.", minutes=(8, 15)),
        Handling("Top mount on, rod nut to torque, then ease the compressor off, tails in their pockets.",
                 cautions.SPRING, minutes=(8, 15)),
        needs=(out,), fasteners=rod, stored=True,
        tools=("Spring compressor in test, with safety strap", "Hexagon key for the damper rod"),
        consumables=("Thread locker as the maker says",),
    )  # fmt: skip


def _bag_on_unit(out: str) -> Joint:
    return Joint(
        "spring_on_unit",
        Handling("On the bench, the bag slack: clamp rings, then the rod nut.", cautions.AIR,
                 "No air in the bag: pressed by hand it gives way.", minutes=(8, 15)),
        Handling("Clamp rings on the beads, top mount on, rod nut to torque; no air in the bag on the bench.",
                 minutes=(8, 15)),
        needs=(out, "air"), fasteners=("strut_rod_nut",), stored=True,
        tools=("Pliers for the clamp rings", "Hexagon key for the damper rod"),
        consumables=("Clamp rings and seals of the bags, new",),
    )  # fmt: skip


_AIR = Joint(
    "air",
    Handling(
        "Pressure let out at the unit's own valve; line off and plugged.", cautions.AIR,
        "No line opened before the level system is off and the gauge reads nothing.", minutes=(5, 12),
    ),
    Handling(
        "Line square and home; filled with the wheel hanging, every joint soaped, before any weight comes on.",
        minutes=(6, 12),
    ),
    stored=True, consumables=("Soap water for the air joints", "Plugs for the air lines"),
    given_up=Handling(
        "Air line capped and tied away from heat and what moves; level control put out of service as its maker says.",
        minutes=(5, 20),
    ),
)  # fmt: skip


def _leaf(axle: Axle) -> list[Joint]:
    seat = (
        "Pack on its block, centre bolt's head in that"
        if axle.blocks_mm
        else "Pack on its seat, centre bolt's head in it"
    )
    return [
        Joint(
            "u_bolts",
            Handling(
                "Axle on its jack, U-bolt nuts off crosswise, this side only; plate off. U-bolts are not used again.",
                cautions.FALLING, "The other side stays clamped until this one is done.", people=2, minutes=(10, 40),
            ),
            Handling(
                f"{seat}. New U-bolts crosswise, hand tight; to torque with the axle loaded.", people=2,
                minutes=(10, 20),
            ),
            needs=_hangs("damper_foot"), fasteners=("u_bolt",), rubber=True, stored=True,
            tools=("Two jacks for the axle", "Deep sockets for the U-bolts"),
            new="4 U-bolts with nuts, as those that come off",
        ),
        Joint(
            "shackle",
            Handling(
                "Pack without load: frame on stands, axle's jack up until the shackle swings free. Shackle bolts out; "
                "a seized one is cut, not hammered.", cautions.FALLING,
                "The shackle moves by hand before its bolt is drawn.", people=2, minutes=(8, 40),
            ),
            Handling("Shackle bolts in from the side they came, hand tight.", minutes=(4, 8)),
            needs=("wheel", "lines"), fasteners=("shackle",), rubber=True, stored=True,
        ),
        Joint(
            "pack",
            Handling(
                "Axle down until the pack hangs free of it; fixed-eye bolt out, pack down between two.",
                cautions.FALLING, people=2, minutes=(10, 40),
            ),
            Handling("Pack up, fixed eye first, then the shackle; bolts hand tight.", people=2, minutes=(8, 15)),
            needs=("u_bolts", "shackle", "pivots"),
        ),
    ]  # fmt: skip


def _torsion() -> list[Joint]:
    return [
        Joint(
            "adjuster",
            Handling(
                "Wheel hanging, arm on its jack: mark lever and bolt, count the thread that shows, lock nut off.",
                cautions.TORSION, "The arm hangs before the bolt is turned.", minutes=(4, 10),
            ),
            Handling("Adjuster locked, thread that shows written down on both sides.", minutes=(2, 4)),
            needs=("wheel",), fasteners=("torsion_adjuster",), stored=True,
        ),
        Joint(
            "bar",
            Handling(
                "Scribe bar, arm and anchor across each other at both ends: the old setting. Ease the arm down until "
                "the bar turns by hand, then draw it.", cautions.TORSION,
                "No load is left on the bar: it turns by hand before it is drawn. Jack and strap hold the arm.",
                people=2, minutes=(10, 30),
            ),
            Handling(
                "Splines clean and greased, bar home by the new marks, same count on the other side; arm back on its "
                "jack.", cautions.TORSION, minutes=(8, 20),
            ),
            needs=_hangs("damper_foot", "pivots"), fasteners=("torsion_anchor",), stored=True,
            tools=("Scriber", "Strap for the arm", "Angle gauge"), consumables=("Spline grease as the maker says",),
        ),
    ]  # fmt: skip


def _arms(axle: Axle, free: str | None) -> list[Joint]:
    """Ends of arms and links. What carries a loose spring is held, and the spring out, before it is parted."""
    frame = set(frame_points(axle.linkage))
    found: dict[str, Joint] = {}
    for kind, *ends in axle.linkage.members():
        if kind not in ("arm", "rod"):
            continue
        needs = _hangs(*((free,) if kind == "arm" and free and _independent(axle) else ()))
        # A rod of a wheel that hangs on its own turns on balls at both its ends; all else inside turns on rubber.
        on_balls = kind == "rod" and _independent(axle)
        for end in ends:
            if end in found or end in LEAF_POINTS or end.startswith("wheel_centre"):
                continue
            name = pair_name(end)
            inner = (end in frame or axle.linkage.coupled) and not on_balls
            slack = "lateral_rod" if "lateral" in end else "pivots"
            if inner:
                # Its bolt is the one that is slack already: tightened once, where it rides.
                found[end] = Joint(
                    end,
                    Handling(f"{name.capitalize()}: mark which way the bolt goes in, bolt out, the part held.",
                             cautions.FALLING, minutes=(5, 25)),
                    Handling(f"{name.capitalize()}: bolt in from the side it came, hand tight.", minutes=(3, 6)),
                    needs=(*needs, slack), shared=axle.linkage.coupled and not _of_a_side(end),
                )  # fmt: skip
            else:
                found[end] = Joint(
                    end,
                    Handling(f"{name.capitalize()}: nut off; a taper is parted with a separator, not with a hammer.",
                             cautions.DRIVE_SHAFT, minutes=(5, 25)),
                    Handling(f"{name.capitalize()}: clean and dry, home; its nut to torque.", minutes=(4, 8)),
                    needs=needs, fasteners=(f"point:{end}",), tools=("Ball-joint separator",),
                )  # fmt: skip
    return list(found.values())


def _others(axle: Axle) -> list[Joint]:
    found = [
        Joint(
            "stop",
            Handling("Bump stop off its seat.", minutes=(2, 8)),
            Handling("Bump stop on its full face, to torque.", minutes=(2, 5)),
            needs=("wheel",), fasteners=("bump_stop",),
        ),
        Joint(
            "subframe",
            Handling(
                "Mark the subframe on the body. Jack with a wide rest under it; its bolts one side at a time.",
                cautions.SUBFRAME, "Column joint, exhaust, hoses, wires and shafts are free to go down with it.",
                people=2, minutes=(15, 40),
            ),
            Handling("Subframe up on its marks, bolts in one side at a time, to torque.", people=2, minutes=(10, 25)),
            needs=_hangs(), fasteners=("subframe",), shared=True, tools=("Jack with a wide rest",),
        ),
    ]  # fmt: skip
    if axle.linkage.coupled:
        found.append(
            Joint(
                "prop_shaft",
                Handling(
                    "Mark shaft and flanges across each other, then part them; shaft tied up, not hung.",
                    minutes=(8, 20),
                ),
                Handling("Flanges on their marks, bolts to torque.", minutes=(6, 12)),
                fasteners=("prop_shaft",),
                shared=True,
            )
        )
    return found


def _of_a_side(point: str) -> bool:
    """Whether a point of a whole axle is told for one of its sides."""
    return not {"left", "right"}.isdisjoint(point.split("_"))


def on_side(axle: Axle, point: str, side: Side) -> str:
    """The point at a side that a change of a whole axle's left or right one is made at too, as its mirror image."""
    if not axle.linkage.coupled:
        return point
    return "_".join(side if word in SIDES else word for word in point.split("_"))


def _at_point(axle: Axle, point: str) -> tuple[str, ...]:
    """Joints at a point of the suspension; where spring or damper stand there, theirs."""
    keys = joints_of(axle)
    if point in keys:
        return (point,)
    if point in LEAF_POINTS:
        return {"fixed_eye": ("pack",), "seat": ("u_bolts",)}.get(point, ("shackle",))
    corner = axle_corner(axle)
    damper, spring = corner.damper, corner.spring
    if isinstance(spring, PointDistance) and point in (spring.start, spring.end):
        return WORDS["spring"](axle)
    if damper is not None and point in (damper.start, damper.end):
        at_frame = point in frame_points(axle.linkage)
        return _first(keys, "strut_top" if at_frame else "clamp", "damper_top" if at_frame else "damper_foot")
    # Where a part of it turns, but no bolt is known of: the wheel is off, and its hoses free.
    return ("lines",)


def _first(keys: Iterable[str], *wanted: str) -> tuple[str, ...]:
    there = set(keys)
    return next(((w,) for w in wanted if w in there), ("wheel",))


def _where(*wanted: str) -> Callable[[Axle], tuple[str, ...]]:
    """The first of some joints that the axle has."""
    return lambda axle: _first(joints_of(axle), *wanted)


def _inside(axle: Axle) -> tuple[str, ...]:
    """What sits on the damper's rod: the spring off it where it is around it, else the damper out."""
    return _first(joints_of(axle), "spring_on_unit", "strut_top", "damper_top")


def _stop(axle: Axle) -> tuple[str, ...]:
    return ("stop",) if axle.bump_stop.contact_mm is None else _inside(axle)


WORDS: dict[str, Callable[[Axle], tuple[str, ...]]] = {
    "wheel": lambda _: ("wheel",),
    "spring": _where("spring_on_unit", "spring_seat", "pack", "bar"),
    "inside the unit": _inside,
    "unit": lambda axle: (*_first(joints_of(axle), "strut_top", "damper_top"),
                          *(("spring_seat",) if "spring_seat" in joints_of(axle) else ())),
    "damper": lambda axle: _first(joints_of(axle), "spring_on_unit", "strut_top", "damper_top"),
    "damper foot": _where("clamp", "damper_foot"),
    "damper top": _where("strut_top", "damper_top"),
    "strut top": _where("strut_top", "damper_top"),
    "stop": _stop,
    "hanging": lambda _: ("wheel",),
    "axle clamp": _where("u_bolts"),
    "pack": _where("pack"),
    "shackle": _where("shackle"),
    "torsion bar": _where("bar"),
    "torsion adjuster": _where("adjuster"),
    "anti-roll links": _where("anti_roll_link", "lines"),
    "subframe": _where("subframe"),
    "propeller shaft": _where("prop_shaft"),
}  # fmt: skip
"""What changes call their places, and which joints those are on an axle."""
