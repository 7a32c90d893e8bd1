"""What hangs under a vehicle as parts to scale, wheel by wheel, at travels of its axle.

All of it from the data the numbers come from: a coil as long as it is pressed, a damper with its rod out as far as it
is, a stop squeezed by what it is squeezed. What nobody gave (how thick a wire is, how wide a tyre) is drawn as usual
for its kind, and its name says “sketched”.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import cast

import numpy as np
from scipy.optimize import brentq

from inclinum.core.car.carried import UPRIGHT, Carried
from inclinum.core.car.limits.anti_roll import bar_eye
from inclinum.core.car.limits.tyre_gaps import over_positions
from inclinum.core.car.stance import Stance
from inclinum.core.car.vehicle import AdjusterData, LinkAdjuster, TrackRodAdjuster
from inclinum.core.kinematics import ArmAngle, PointDistance, point_name, wheel_angles
from inclinum.core.kinematics.axles import AxleSteering, steered_axle
from inclinum.core.kinematics.body import Body, Poses
from inclinum.core.kinematics.constraints import NEUTRAL, Adjustment, turn_to_reach
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.kinematics.refit import frame_points
from inclinum.core.kinematics.rigid import Array, about, unit
from inclinum.core.shapes import Ball, Bar, Coil, Curve, Disc, Part, Ribbon, Role
from inclinum.core.springs.fitted import (
    AirSpringData,
    LeafPackData,
    ProgressiveCoilData,
    SeatedSpring,
    SpringTable,
    StackCoil,
    StackData,
    TorsionBarData,
)
from inclinum.core.springs.fitted import Coil as CoilData

WIDE: dict[str, float] = {"arm": 34.0, "rod": 22.0, "hub": 44.0, "tube": 84.0, "rack": 46.0, "pivot": 40.0}
"""Usual thickness of what has none in the data, mm."""
STOP_TOUCHES = "stop"
DAMPER_BODY, DAMPER_ROD, STOP = 48.0, 18.0, 44.0
USUAL_TURNS, USUAL_INDEX = 6.0, 8.5
"""Active turns of a coil, and its diameter over its wire, where nobody gave them."""
TOP_MM = 30.0
"""Of a damper above where its stop sits: eye, or pin and mount."""
SKETCHED = ", thickness sketched"
LEAF_POINTS = 15
ACROSS = np.array([0.0, 1.0, 0.0])


@dataclass(frozen=True, eq=False)
class Look:
    """Of one coil: what of it can be seen."""

    mean: float
    wire: float
    turns: float
    free: float
    solid: float
    sketched: bool


def look_of(spring: SeatedSpring | StackCoil, inside: float | None = None) -> Look:
    """Wire, turns and diameter of a coil: by calliper where somebody measured it, else as its solid length allows.

    Source: derived here: turns that touch are as many wires high as there are turns, and one.
    """
    if isinstance(spring, CoilData) and spring.wire is not None:
        w = spring.wire
        return Look(
            w.outside_mm - w.wire_mm, w.wire_mm, w.total_coils, spring.free_length_mm, spring.solid_length_mm, False
        )
    if isinstance(spring, ProgressiveCoilData):
        turns = sum(g.active_coils for g in spring.groups) + 2
        widest = max(g.mean_diameter_mm for g in spring.groups)
        return Look(
            widest, spring.wire_mm, turns, spring.free_length_mm, float(spring.spring().solid_length or 0.0), False
        )
    assert isinstance(spring, CoilData | SpringTable | StackCoil), "every other kind says its wire itself"
    active = (getattr(spring, "active_coils", None) or USUAL_TURNS) + 2.0
    free, solid = spring.free_length_mm, spring.solid_length_mm
    wire = solid / (active + 1)
    bore = inside or (spring.inside_mm if isinstance(spring, SeatedSpring) else None)
    # Slender enough not to buckle, where nobody said how wide it is.
    return Look(bore + wire if bore else min(USUAL_INDEX * wire, 0.45 * free), wire, active, free, solid, True)


@dataclass(frozen=True, eq=False)
class WheelParts:
    """Parts of a left wheel, and of the axle it belongs to, at travels.

    Args:
        stance: as that wheel sees its axle.
        poses: at every position, (N,) or one column (N, 1).
        adjusted: what was steered for them.
        turned: of the wheel on a solid axle about its kingpin at each of them, left positive, rad, (N,).
    """

    stance: Stance
    poses: Poses
    adjusted: Adjustment = NEUTRAL
    turned: Array | None = None

    @cached_property
    def _at(self) -> dict[str, Array]:
        """Every named point at every travel, (N, 3), body axes."""
        corner, shape = self.stance.corner, self.poses.centre.shape
        found = {
            n: np.broadcast_to(corner.place(n, self.poses, self.adjusted)[0], shape).reshape(-1, 3)
            for n in corner.body.points
        }
        if (turn := self._kingpin) is not None:
            found[corner.wheel] = turn(found[corner.wheel])
        return found

    @cached_property
    def _carried(self) -> Carried:
        return Carried(self.stance, self.poses, self.adjusted)

    @cached_property
    def _travel(self) -> Array:
        return np.atleast_1d(self.poses.travel).ravel()

    @cached_property
    def spin(self) -> Array:
        """Outward axis of the hub at every position, (N, 3)."""
        corner = self.stance.corner
        axis = self.poses.direction(wheel_angles.spin_axis(corner.camber, corner.toe)).reshape(-1, 3)
        if self.turned is None or (steering := steered_axle(self.stance.axle.linkage)) is None:
            return axis
        return about(self._direction(kingpin_of(steering)), self.turned, axis)

    @property
    def wheel(self) -> Array:
        """Its centre at every position, (N, 3), body axes, mm."""
        return self._at[self.stance.corner.wheel]

    def middle(self, names: tuple[str, ...]) -> Array:
        """Middle of hardpoints at every position, (N, 3), body axes, mm."""
        return np.mean([self._at[n] for n in names], axis=0)

    def _direction(self, axis: Array) -> Array:
        return self.poses.direction(axis).reshape(-1, 3)

    def _point(self, at: Array) -> Array:
        return self.poses.point(at).reshape(-1, 3)

    @cached_property
    def _kingpin(self) -> Callable[[Array], Array] | None:
        """What turns places (N, 3) with the left knuckle of a solid axle; None where nothing is turned."""
        turned, steering = self.turned, steered_axle(self.stance.axle.linkage)
        if turned is None or steering is None:
            return None
        axis, hub = self._direction(kingpin_of(steering)), self._point(np.array(steering.kingpin_left_lower))
        return lambda at: hub + about(axis, turned, at - hub)

    @cached_property
    def _moving(self) -> set[str]:
        return set(self._at) - set(frame_points(self.stance.axle.linkage))

    @cached_property
    def _extras(self) -> dict[str, Array]:
        """Places of what hangs beside the suspension, at every travel."""
        axle, found = self.stance.axle, {}
        for n, line in enumerate(axle.lines):
            found[f"line {n}"] = self._hung(np.array(line.wheel))
        if axle.half_shaft is not None:
            outer = axle.half_shaft.outer
            wheel = self._at[self.stance.corner.wheel]
            found["shaft"] = wheel if outer is None else self._hung(np.array(outer))
        if (link := axle.anti_roll_link) is not None:
            found["bar eye"] = bar_eye(self.stance, self._travel)
            found["bar foot"] = self._hung(np.array(link.foot), link.on)
        return found

    def _hung(self, at: Array, on: str = UPRIGHT) -> Array:
        shape = self.poses.centre.shape
        return np.broadcast_to(self._carried.place(at, on), shape).reshape(-1, 3)

    def near(self, before: Stance) -> list[tuple[str, Array, Array]]:
        """Where something ends the movement: its name, places (N, 3) in body axes, and what is left there (N,), mm.

        Args:
            before: of the axle as it came, as this wheel sees it: gaps were read there.
        """
        stance, corner, axle, travel = self.stance, self.stance.corner, self.stance.axle, self._travel
        found: list[tuple[str, Array, Array]] = []
        if corner.damper is not None:
            upper, lower = self._at[corner.damper.start], self._at[corner.damper.end]
            middle = (upper + lower) / 2
            now = stance.ride.damper_at(travel)
            open_, strapped = axle.damper.open_mm, axle.damper.open_mm < axle.damper.extended_mm
            told = "strap tight" if strapped else "damper open"
            found.append((told, lower * 0.75 + upper * 0.25, open_ - now))
            if (contact := stance.window.stop_contact) is not None:
                found.append((STOP_TOUCHES, middle, contact - travel))
            found.append(("damper closed", middle * 0.6 + lower * 0.4, now - axle.damper.closed_mm))
        solid = stance.ride.spring.solid_length
        if (
            axle.spring.is_coil
            and solid is not None
            and np.isfinite(solid)
            and isinstance(corner.spring, PointDistance)
        ):
            middle = (self._at[corner.spring.start] + self._at[corner.spring.end]) / 2
            found.append(("coil", middle, stance.ride.spring_at(travel) - solid))
        for k, line in enumerate(axle.lines):
            body, hub = np.array(line.body), self._extras[f"line {k}"]
            found.append((line.name, (body + hub) / 2, line.length_mm - np.linalg.norm(hub - body, axis=-1)))
        for gap in axle.tyre_gaps:
            if gap.at is not None:
                places = np.broadcast_to(np.array(gap.at), self.wheel.shape)
                found.append((gap.name, places, over_positions(gap, before, stance, self.wheel, self.spin)))
        return found

    def adjuster(self, data: AdjusterData) -> Array:
        """Where an adjuster is taken hold of at every position, (N, 3), body axes, mm."""
        if isinstance(data, TrackRodAdjuster):
            steering = steered_axle(self.stance.axle.linkage)
            assert steering is not None, "no other axle has one"
            return self._point(np.array(steering.track_rod_left))
        if not isinstance(data, LinkAdjuster):
            return self._at[data.point]
        ends = next((m for m in self.stance.axle.linkage.members() if data.outer in m[1:]), None)
        return self._at[data.outer] if ends is None else (self._at[ends[1]] + self._at[ends[2]]) / 2

    def of_axle(self, n: int) -> list[Part]:
        """What belongs to both wheels at one of the travels: tube, rods across, rack, shaft."""
        parts: list[Part] = []
        linkage, axle = self.stance.axle.linkage, self.stance.axle
        if linkage.coupled:
            one, other = (self._at[w][n] for w in ("wheel_centre_left", "wheel_centre_right"))
            parts.append(Bar("tube", np.array([one, other]), "axle tube" + SKETCHED, wide=WIDE["tube"]))
            for kind, a, b in linkage.members():
                if {"left", "right"}.isdisjoint(a.split("_")) and kind in ("arm", "rod") and not _leaf(a):
                    parts += self._link(kind, a, b, n)
            parts += self._crank(n)
            parts += self._steering(n)
            if axle.prop_shaft is not None:
                joints = (axle.prop_shaft.gearbox_joint, axle.prop_shaft.pinion_joint)
                pinion = self._hung(np.array(joints[1]))[n]
                parts.append(Bar("shaft", np.array([joints[0], pinion]), "propeller shaft", wide=60))
                parts.append(Ball("tube", ((one + other) / 2)[None], "differential, sketched", wide=220))
        if axle.archetype == "twist_beam":
            # Where along the arms it is welded on nobody measures: it only has to be recognised.
            arm = next(m for m in linkage.members() if m[0] == "arm")
            middle = self._at[arm[1]][n] * 0.68 + self._at[arm[2]][n] * 0.32
            ends = np.array([middle, middle * (1, -1, 1)])
            parts.append(Bar("tube", ends, "cross beam, sketched", wide=WIDE["tube"]))
        steering = self.stance.corner.steering
        if steering is not None and steering.kind == "rack":
            # The other end of it is as far away as it always is, whichever way it was pushed.
            inner, long = self._at[steering.inner][n], 2 * self.stance.corner.body.points[steering.inner][1]
            ends = np.array([inner, inner - (0.0, long, 0.0)])
            parts.append(Bar("rack", ends, "steering rack" + SKETCHED, wide=WIDE["rack"]))
        return parts

    def _crank(self, n: int) -> list[Part]:
        """What turns on the axle between two rods, and where it turns."""
        body = self.stance.corner.body
        parts: list[Part] = []
        for crank in dict.fromkeys(body.cranks.values()) if isinstance(body, Body) else ():
            ends = np.array([self._at[crank.first_end][n], self._at[crank.second_end][n]])
            parts.append(Bar("arm", ends, "crank", wide=WIDE["arm"]))
            parts.append(Ball("bush", self._at[crank.pivot][n][None], point_name(crank.pivot), wide=WIDE["arm"] + 6))
        return parts

    def _steering(self, n: int) -> list[Part]:
        """Drag link and track rod of a solid axle."""
        steering = steered_axle(self.stance.axle.linkage)
        if steering is None:
            return []
        names = ("drag_link_knuckle", "track_rod_left", "track_rod_right")
        on_axle = {name: self._point(np.array(getattr(steering, name))) for name in names}
        track = np.array([on_axle["track_rod_left"][n], on_axle["track_rod_right"][n]])
        rods = [(track, "track rod")]
        if self._kingpin is None:
            rods.append((np.array([steering.drag_link_box, on_axle["drag_link_knuckle"][n]]), "drag link"))
        else:
            # Where the arm of the box stands at lock nobody said: the drag link is left out there.
            rods = [(self._turned_track(on_axle["track_rod_left"], on_axle["track_rod_right"])[n], "track rod")]
        parts: list[Part] = [Bar("rod", ends, name + SKETCHED, wide=WIDE["rod"]) for ends, name in rods]
        return parts + [Ball("joint", end[None], wide=34) for ends, _ in rods for end in ends]

    def _turned_track(self, left: Array, right: Array) -> Array:
        """The track rod with the left knuckle turned, (N, 2, 3): as far about as the rod is long, to the right one."""
        steering = steered_axle(self.stance.axle.linkage)
        assert steering is not None, "it is steered"
        assert self._kingpin is not None, "it is turned"
        at = self._kingpin(left)
        lower = np.array(steering.kingpin_left_lower) * (1, -1, 1)
        axis, hub = self._direction(kingpin_of(steering) * (1, -1, 1)), self._point(lower)
        turn = turn_to_reach(axis, right - hub, at - hub, np.linalg.norm(right - left, axis=-1))
        return np.stack([at, hub + about(axis, turn, right - hub)], axis=1)

    def of_wheel(self, n: int) -> list[Part]:
        """What one wheel has, the left one, at one of the travels."""
        corner, axle = self.stance.corner, self.stance.axle
        linkage = axle.linkage
        parts: list[Part] = []
        for kind, a, b in linkage.members():
            # Of a coupled axle the tube, and rods without a side, are the axle's; the right half is its mirror image.
            shared = linkage.coupled and "left" not in a.split("_")
            if kind in ("spring", "strut") or _leaf(a) or shared or a == "wheel_centre_left":
                continue
            parts += self._link(kind, a, b, n)
        parts += self._damper(n) + self._spring(n)
        wheel = self._at[corner.wheel][n]
        parts += _wheel(wheel, self.spin[n], axle.tyre_radius_mm, axle.tyre_width_mm, axle.tyre_wider_mm)
        for k, line in enumerate(axle.lines):
            parts.append(_hose(np.array(line.body), self._extras[f"line {k}"][n], line.length_mm, line.name))
        if axle.half_shaft is not None:
            ends = np.array([axle.half_shaft.inner, self._extras["shaft"][n]])
            parts += [Bar("shaft", ends, "half-shaft" + SKETCHED, wide=28)]
            parts += [Ball("joint", e[None], wide=70) for e in ends]
        link = axle.anti_roll_link
        # Steered, the foot on an upright moves and the eye with it, which nothing here works out.
        if link is not None and (self.adjusted is NEUTRAL or link.on != UPRIGHT):
            eye = self._extras["bar eye"][n]
            axis = np.array([link.bar_x_mm, eye[1], link.bar_z_mm])
            parts.append(Bar("roll_bar", np.array([axis, eye]), "anti-roll bar", wide=22))
            parts.append(Bar("roll_bar", np.array([axis, axis * (1, 0, 1)]), "anti-roll bar", wide=22))
            parts.append(Bar("rod", np.array([eye, self._extras["bar foot"][n]]), "anti-roll link", wide=14))
        parts += [Ball("place", np.array([gap.at]), gap.name, wide=16) for gap in axle.tyre_gaps if gap.at]
        return [p for p in parts if np.isfinite(p.at).all()]

    def _link(self, kind: str, a: str, b: str, n: int) -> list[Part]:
        ends = np.array([self._at[a][n], self._at[b][n]])
        role: Role = "rod" if kind == "rod" else "hub" if kind == "hub" else "arm"
        found: list[Part] = [Bar(role, ends, "" if kind == "hub" else point_name(b), wide=WIDE.get(kind, 30.0))]
        if kind != "hub":
            found += [
                Ball("joint" if name in self._moving else "bush", end[None], point_name(name), wide=WIDE["rod"] + 12)
                for name, end in zip((a, b), ends, strict=True)
            ]
        return found

    def _damper(self, n: int) -> list[Part]:
        """Body from below, rod and stop from above: the rod is out by what is left of its stroke."""
        corner, axle = self.stance.corner, self.stance.axle
        if corner.damper is None:
            return []
        upper, lower = _upper_first(self._at[corner.damper.start][n], self._at[corner.damper.end][n])
        length = float(np.linalg.norm(upper - lower))
        if length < 1:
            return []
        up = (upper - lower) / length
        # Between its points stands the damper and what was put on top of it.
        now = float(self.stance.ride.damper_at(self._travel[n]))
        top = upper - up * (length - now)
        stop = axle.bump_stop
        body = axle.damper.closed_mm - TOP_MM if stop.contact_mm is None else stop.contact_mm - stop.height_mm - TOP_MM
        body = min(max(body, 0.35 * axle.damper.closed_mm), now - 1.0)
        mouth = lower + up * body
        parts: list[Part] = [
            Bar("damper_rod", np.array([mouth, top]), "damper rod", wide=DAMPER_ROD),
            Bar("damper_body", np.array([lower, mouth]), "damper" + SKETCHED, wide=DAMPER_BODY),
            Ball("bush", lower[None], wide=26),
            Ball("bush", top[None], wide=26),
        ]
        if length - now > 1:
            parts.append(Bar("spacer", np.array([top, upper]), "spacer on top", wide=90))
        if stop.contact_mm is not None:
            squeezed = min(stop.height_mm, max(now - TOP_MM - body, 2.0))
            under = top - up * TOP_MM
            parts.append(Bar("bump_stop", np.array([under, under - up * squeezed]), "bump stop", wide=STOP))
        return parts

    def _spring(self, n: int) -> list[Part]:
        corner, axle = self.stance.corner, self.stance.axle
        spring = axle.spring
        if isinstance(corner.spring, ArmAngle):
            return self._bar(corner.spring, n)
        if isinstance(corner.body, LeafBody):
            return self._leaves(corner.body, n)
        if not isinstance(corner.spring, PointDistance):
            return []
        upper, lower = _upper_first(self._at[corner.spring.start][n], self._at[corner.spring.end][n])
        span = float(np.linalg.norm(upper - lower))
        if span < 1:
            return []
        up = (upper - lower) / span
        length = float(self.stance.ride.spring_at(self._travel[n]))
        # What is between the points and is not spring: rings above and below it, the perch or mount.
        ring, raised = max(axle.ring_above_mm, 0.0), max(axle.seat_spacer_mm - axle.ring_above_mm, 0.0)
        top = upper - up * ring
        seat = top - up * length
        parts: list[Part] = []
        if ring > 0:
            parts.append(Bar("spacer", np.array([top, upper]), "spring spacer", wide=self._seat_wide(spring)))
        if raised > 0:
            low = seat - up * 5
            parts.append(Bar("spacer", np.array([low - up * raised, low]), "seat raised", wide=self._seat_wide(spring)))
        if isinstance(spring, AirSpringData):
            return parts + _bag(seat, top, spring) + self._pan(lower, n)
        if not isinstance(spring, SeatedSpring):
            return parts
        parts += self._coils(spring, seat, top, up)
        parts.append(Bar("seat", np.array([seat - up * 5, seat]), "spring seat", wide=self._seat_wide(spring)))
        parts.append(Bar("seat", np.array([top, top + up * 5]), "spring seat", wide=self._seat_wide(spring)))
        if not stand_together(axle.linkage) and np.linalg.norm(seat - lower) > 8 and length < span:
            parts.append(Bar("seat", np.array([lower, seat - up * 5]), "perch, sketched", wide=50))
        return parts + self._pan(lower, n)

    def _pan(self, lower: Array, n: int) -> list[Part]:
        """What a spring beside its arm stands on: from the nearest place of an arm."""
        linkage = self.stance.axle.linkage
        if linkage.coupled or stand_together(linkage):
            return []
        arms = [(self._at[a][n], self._at[b][n]) for kind, a, b in linkage.members() if kind == "arm"]
        start = min((_nearest(*ends, lower) for ends in arms), key=lambda at: float(np.linalg.norm(at - lower)))
        if np.linalg.norm(start - lower) < 1.5 * WIDE["arm"]:
            return []
        return [Bar("arm", np.array([start, lower]), "spring pan, sketched", wide=WIDE["arm"])]

    def _seat_wide(self, spring: object) -> float:
        if isinstance(spring, AirSpringData):
            return 1.1 * 2 * math.sqrt(spring.area_mm2 / math.pi)
        if isinstance(spring, StackData):
            return 1.15 * look_of(spring.main, spring.inside_mm).mean
        return 1.15 * look_of(spring).mean if isinstance(spring, SeatedSpring) else 100.0

    def _coils(self, spring: SeatedSpring, seat: Array, top: Array, up: Array) -> list[Part]:
        """Coils standing on their lower seat: one that is longer than it can be leaves a gap, and is seen to."""
        room = float(np.linalg.norm(top - seat))
        if not isinstance(spring, StackData):
            one = look_of(spring)
            return [_coil(one, seat, up, min(room, one.free), "spring")]
        force = float(spring.spring().force(room))
        tender, main = look_of(spring.tender, spring.inside_mm), look_of(spring.main, spring.inside_mm)
        pressed = [
            max(k.free_length_mm - force / k.rate_n_per_mm, k.solid_length_mm) for k in (spring.tender, spring.main)
        ]
        # Whatever the rounding, both and the ring between them fill the room they have.
        divider = 6.0
        main_long = max(min(room - pressed[0] - divider, main.free), main.solid) if force > 0 else main.free
        first, second = (main, tender) if spring.order == "tender_at_collar" else (tender, main)
        longs = (main_long, pressed[0]) if spring.order == "tender_at_collar" else (pressed[0], main_long)
        middle = seat + up * longs[0]
        return [
            _coil(first, seat, up, longs[0], "main spring" if first is main else "tender spring"),
            Bar("collar", np.array([middle, middle + up * divider]), "divider", wide=1.2 * main.mean),
            _coil(second, middle + up * divider, up, longs[1], "tender spring" if second is tender else "main spring"),
        ]

    def _bar(self, on: ArmAngle, n: int) -> list[Part]:
        """A torsion bar on the arm's pivot line, towards the back or the far side, as long as it is."""
        spring = self.stance.axle.spring
        if not isinstance(spring, TorsionBarData):
            return []
        first, second = self._at[on.first][n], self._at[on.second][n]
        axis = unit(second - first)
        lengthwise = abs(axis[0]) > abs(axis[1])
        away = axis * (-np.sign(axis[0]) if lengthwise else -np.sign(axis[1]))
        start = max((first, second), key=lambda p: float(p @ away))
        end = start + away * spring.length_mm
        return [
            Bar("bar", np.array([start, end]), "torsion bar", wide=spring.diameter_mm),
            *(
                Bar("bolt", np.array([p, p + away * 34]), "splines", wide=1.5 * spring.diameter_mm)
                for p in (start, end)
            ),
        ]

    def _leaves(self, body: LeafBody, n: int) -> list[Part]:
        """A pack as its leaves, bent through eyes and seat; shackle, block and U-bolts with it."""
        axle, pack = self.stance.axle, self.stance.axle.spring
        if not isinstance(pack, LeafPackData):
            return []
        fixed, seat, eye = (self._at[p][n] for p in ("fixed_eye", "seat", "shackle_eye"))
        hanger, wheel = self._at["shackle_body"][n], self._at["wheel_centre_left"][n]
        length = np.hypot(*(eye - fixed)[[0, 2]])
        share = float((seat - fixed)[[0, 2]] @ (eye - fixed)[[0, 2]] / length**2)
        parts: list[Part] = []
        for k in range(pack.leaves):
            # The main leaf has the eyes; each one under it is shorter, the last one a short one under the seat.
            half = 1.0 if k == 0 else 1 - 0.8 * k / pack.leaves
            t = share + (np.linspace(-share, 1 - share, LEAF_POINTS)) * half
            line = _through(fixed, seat, eye, share, t) - np.array([0, 0, k * (pack.thickness_mm + pack.liner_mm)])
            parts.append(Ribbon("leaf", line, "leaf pack", axis=ACROSS, wide=pack.width_mm, thick=pack.thickness_mm))
        under = pack.leaves * (pack.thickness_mm + pack.liner_mm)
        over_axle = seat[2] > wheel[2]
        foot = seat - np.array([0, 0, under]) if over_axle else seat + np.array([0, 0, pack.thickness_mm])
        if axle.blocks_mm:
            down = np.array([0, 0, -axle.blocks_mm if over_axle else axle.blocks_mm])
            parts.append(Bar("block", np.array([foot, foot + down]), "block", wide=90))
        way = 1 if over_axle else -1
        for x in (-48.0, 48.0):
            above = seat + np.array([x, 0, 14.0 * way])
            below = np.array([seat[0] + x, seat[1], wheel[2] - way * WIDE["tube"] * 0.62])
            parts.append(Bar("bolt", np.array([above, below]), "U-bolt", wide=12))
        parts.append(Bar("hub", np.array([eye, hanger]), "shackle", wide=26))
        parts += [Ball("bush", p[None], wide=44) for p in (fixed, eye, hanger)]
        return parts


def kingpin_of(steering: AxleSteering) -> Array:
    """Direction of the left kingpin of a solid axle, upwards."""
    return unit(np.array(steering.kingpin_left_upper) - np.array(steering.kingpin_left_lower))


def _leaf(name: str) -> bool:
    """Whether a point belongs to a leaf pack, whose parts are drawn as such."""
    return name in ("fixed_eye", "seat", "shackle_eye", "shackle_body")


def _upper_first(one: Array, other: Array) -> tuple[Array, Array]:
    return (one, other) if one[2] >= other[2] else (other, one)


def _coil(look: Look, seat: Array, up: Array, length: float, name: str) -> Coil:
    ends = np.array([seat, seat + up * length])
    said = name + (SKETCHED if look.sketched else "")
    return Coil("coil", ends, said, mean=look.mean, wire=look.wire, turns=look.turns)


def _bag(seat: Array, top: Array, spring: AirSpringData) -> list[Part]:
    """A bellows: its effective area is that of a circle between its waist and its folds."""
    radius, high = math.sqrt(spring.area_mm2 / math.pi), float(np.linalg.norm(top - seat))
    up = (top - seat) / high
    folds: list[Part] = [
        Disc("air", (seat + up * high * share)[None], "air spring", axis=up, radius=1.12 * radius, width=high / 2)
        for share in (0.25, 0.75)
    ]
    return folds + [Bar("seat", np.array([p, p + up * 6]), wide=1.6 * radius) for p in (seat, top)]


def _wheel(centre: Array, axis: Array, radius: float, width: float | None, wider: float) -> list[Part]:
    wide = (width or 0.62 * radius) + wider
    name = "tyre, radius under load" + ("" if width else ", width sketched")
    return [
        Disc("tyre", centre[None], name, axis=axis, radius=radius, width=wide),
        Disc("rim", centre[None], axis=axis, radius=0.62 * radius, width=0.9 * wide),
        Bar("hub", np.array([centre - axis * 0.4 * wide, centre + axis * 0.2 * wide]), wide=0.3 * radius),
    ]


def _through(first: Array, middle: Array, last: Array, share: float, t: Array) -> Array:
    """Places on the parabola through three points, the middle one at ``share`` of the way."""
    a = (t - share) * (t - 1) / share
    b = t * (t - 1) / (share * (share - 1))
    c = t * (t - share) / (1 - share)
    return a[:, None] * first + b[:, None] * middle + c[:, None] * last


def _hose(one: Array, other: Array, length: float, name: str) -> Part:
    """A hose as it hangs between its clips; drawn tight, and named so, where it is too short.

    Source: the catenary, textbooks of mechanics, chapter on hanging cables: √(s² − h²) = 2a·sinh(D / 2a) for a rope of
    length s over a span D with its ends apart in height by h.
    """
    across = np.array([*(other - one)[:2], 0.0])
    span, high = float(np.linalg.norm(across)), float((other - one)[2])
    if length <= float(np.linalg.norm(other - one)) + 0.01:
        return Curve("hose_tight", np.array([one, other]), f"{name}: too short here", wide=11)
    taut = math.sqrt(length**2 - high**2)
    along = np.linspace(0.0, 1.0, 13)
    if span < 1.0:
        low = min(one[2], other[2]) - (length - abs(high)) / 2
        return Curve("hose", np.array([one, [*one[:2], low], other]), name, wide=11)
    half = cast(float, brentq(lambda x: math.sinh(x) / x - taut / span, 1e-6, 50.0))
    a = span / (2 * half)
    lean = math.atanh(high / length)
    x = (along - 0.5) * span + a * lean
    z = a * (np.cosh(x / a) - math.cosh((-0.5 * span + a * lean) / a))
    return Curve("hose", one + along[:, None] * across + z[:, None] * np.array([0.0, 0.0, 1.0]), name, wide=11)


def _nearest(start: Array, end: Array, to: Array) -> Array:
    """The point of a line between two ends that is nearest to a place, all (3,)."""
    span = end - start
    return start + np.clip((to - start) @ span / (span @ span), 0.0, 1.0) * span
