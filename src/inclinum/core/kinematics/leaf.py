"""The motion of a leaf-sprung axle: each pack a chain of three rigid links, the two sides joined by the axle.

In side view a pack is two rigid arms on the straight lines from its eyes to the seat, with joints at a share (0.75)
of each half-length; both arms pivot on the seat piece, which is the axle. The free eye hangs on a shackle. The chain
still has one freedom too many, closed by one curvature of the whole pack: both arms turn against the axle by angles
in proportion to their half-lengths, δf/a = δr/b. Far droop has a second root, so travel is followed from baseline.

In roll each side is solved at its own height; the axle takes the mean of both pitches, steers by their difference
fore and aft, and rolls about the line through the packs at the height of their eyes. The torque a stiff axle tube
then puts on the seats is left out.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.body import Poses, TravelRange
from inclinum.core.kinematics.branch import State, end_of_reach, newton, sense, solve
from inclinum.core.kinematics.constraints import NEUTRAL, Adjustment
from inclinum.core.kinematics.plane import Plane
from inclinum.core.kinematics.rigid import Array, rotation

STAGE_MM = 20.0
"""Travel is approached in steps of at most this."""
_NEWTON_STEPS = 12
SOUGHT, MET = 1e-10, 1e-8
"""Residuals, mm: looked for, and good enough."""
REACH_GRID = 41
"""Positions looked at together when the end of the travel is sought."""


@dataclass(frozen=True)
class PackMotion:
    """One pack over the travel of its side, arrays (N,), mm and rad."""

    fore_aft: Array
    """Wheel centre x less its baseline."""
    pitch: Array
    """Of the axle, nose up positive."""
    shackle: Array
    """Turn of the shackle from baseline, in side view from z towards x positive."""
    fore_aft_rate: Array
    pitch_rate: Array
    reachable: Array


@dataclass(frozen=True, eq=False)
class LeafBody:
    """An axle on two leaf packs, given by its left one; answers as a :class:`~inclinum.core.kinematics.body.Body`.

    Args:
        points: ``wheel_centre_left``, ``wheel_centre_right``, ``centre`` (their mid-point), and of the left pack
            ``fixed_eye``, ``seat``, ``shackle_eye``, ``shackle_body``, mm.
        share: where the joints lie on the half-lengths, from the eyes.
        across: names of the right and the left wheel centre.

    Raises:
        ValueError: two of the points coincide in side view.
    """

    points: Mapping[str, Array]
    share: float = 0.75
    across: tuple[str, str] = ("wheel_centre_right", "wheel_centre_left")
    centre: str = "centre"

    def __post_init__(self) -> None:
        for one, other in (("fixed_eye", "seat"), ("shackle_eye", "seat"), ("shackle_eye", "shackle_body")):
            if np.hypot(*(self._flat(one) - self._flat(other))) < 5.0:
                raise DomainError(f"{one} and {other} coincide in side view.")

    def _flat(self, name: str) -> Array:
        return np.asarray(self.points[name], dtype=float)[[0, 2]]

    @cached_property
    def _pack(self) -> "_Pack":
        return _Pack(
            wheel=self._flat("wheel_centre_left"),
            fixed=self._flat("fixed_eye"),
            seat=self._flat("seat"),
            eye=self._flat("shackle_eye"),
            pivot=self._flat("shackle_body"),
            share=self.share,
        )

    def pack(self, travel: Array) -> PackMotion:
        """One pack at travels of its own side, (N,), mm."""
        return self._pack.motion(np.atleast_1d(np.asarray(travel, dtype=float)))

    def shackle_angle(self, travel: Array) -> Array:
        """Line from the shackle pivot to the eye against straight down, rad, positive away from the axle."""
        hang = self._flat("shackle_eye") - self._flat("shackle_body")
        outward = np.sign(self._flat("shackle_eye")[0] - self._flat("seat")[0])
        at_baseline = np.arctan2(outward * hang[0], -hang[1])
        # Turning from z towards x is towards +x at the top, so towards −x for what hangs below.
        return at_baseline - outward * self.pack(travel).shackle

    def poses(
        self, travel: Array, adjusted: Adjustment = NEUTRAL, near: Poses | None = None, roll: Array | float = 0.0
    ) -> Poses:
        """As :meth:`Body.poses <inclinum.core.kinematics.body.Body.poses>`; a leaf axle has no adjusters."""
        travel = np.atleast_1d(np.asarray(travel, dtype=float))
        shape, travel = travel.shape, travel.reshape(-1)
        roll = np.broadcast_to(np.asarray(roll, dtype=float), travel.shape)
        seat = self.points["seat"][1]
        eyes = (self.points["fixed_eye"] + self.points["shackle_eye"]) / 2
        centre0 = np.asarray(self.points[self.centre], dtype=float)
        rise = seat * np.sin(roll)
        left = self.pack(travel + rise)
        right = self.pack(travel - rise) if rise.any() else left
        pitch, yaw = (left.pitch + right.pitch) / 2, -(left.fore_aft - right.fore_aft) / (2 * seat)
        lever = eyes[2] - (centre0[2] + travel)
        shift = np.stack([(left.fore_aft + right.fore_aft) / 2, lever * np.sin(roll), travel], axis=-1)
        zero = np.zeros_like(travel)
        yawed = rotation(np.stack([zero, zero, yaw], -1))
        rolled = yawed @ rotation(np.stack([roll, zero, zero], -1))
        turn = rolled @ rotation(np.stack([zero, -pitch, zero], -1))

        def spin(roll_rate: Array, pitch_rate: Array, yaw_rate: Array) -> Array:
            """Each turn about its own axis as the turns before it have left that: yaw about z, roll, then pitch."""
            about_z = np.stack([zero, zero, yaw_rate], axis=-1)
            return about_z + roll_rate[:, None] * yawed[:, :, 0] - pitch_rate[:, None] * rolled[:, :, 1]

        mean_rate = (left.fore_aft_rate + right.fore_aft_rate) / 2
        slope = seat * np.cos(roll)
        parts = (
            centre0 + shift,
            turn,
            np.stack([mean_rate, -np.sin(roll), np.ones_like(travel)], axis=-1),
            spin(
                zero, (left.pitch_rate + right.pitch_rate) / 2,
                -(left.fore_aft_rate - right.fore_aft_rate) / (2 * seat),
            ),
            left.reachable & right.reachable,
            np.stack([slope * (left.fore_aft_rate - right.fore_aft_rate) / 2, lever * np.cos(roll), zero], axis=-1),
            spin(
                np.ones_like(travel), slope * (left.pitch_rate - right.pitch_rate) / 2,
                -slope * (left.fore_aft_rate + right.fore_aft_rate) / (2 * seat),
            ),
        )  # fmt: skip
        return Poses(centre0, *(part.reshape(*shape, *part.shape[1:]) for part in parts))

    def bush_turns(self, poses: Poses, told: Collection[str] = ()) -> dict[str, float]:
        """What the bushes of the shackle and of the fixed eye turn by from the first pose to the last, rad, unsigned.

        The arm at the fixed eye is the rigid one of the model, up to its joint on the seat piece.
        """
        _ = told
        travel = poses.centre[[0, -1], 2] - poses.centre0[2]
        turn = self.pack(travel).shackle
        eye, seat = (np.asarray(self.points[n], dtype=float) for n in ("fixed_eye", "seat"))
        span = (poses.point(eye + self.share * (seat - eye)) - eye)[[0, -1]]
        arm = np.arctan2(span[:, 2], np.abs(span[:, 0]))
        return {"shackle": float(abs(turn[1] - turn[0])), "spring's fixed eye": float(abs(arm[1] - arm[0]))}

    def travel_range(self, low: float, high: float, resolution: float = 0.5) -> TravelRange:
        """Travel that exists: a shackle or an arm drawn straight ends it."""
        ends = [end_of_reach(lambda z: self.pack(z).reachable, end, resolution, REACH_GRID) for end in (low, high)]
        reason = "dead point: shackle and spring in one line"
        reasons = ["" if at == end else reason for at, end in zip(ends, (low, high), strict=True)]
        return TravelRange(ends[0], ends[1], reasons[0], reasons[1])


class _Pack:
    """The planar chain: x forward, z up."""

    def __init__(self, wheel: Array, fixed: Array, seat: Array, eye: Array, pivot: Array, share: float):
        self.wheel, self.fixed, self.pivot = complex(*wheel), complex(*fixed), complex(*pivot)
        a, b = np.hypot(*(fixed - seat)), np.hypot(*(eye - seat))
        front, rear = fixed + share * (seat - fixed), eye + share * (seat - eye)
        self.front, self.rear = complex(*(front - wheel)), complex(*(rear - wheel))
        self.front_arm, self.rear_arm = share * a, share * b
        self.hang = complex(*(eye - pivot))
        # Which way each eye lies from the seat decides the sign of its elevation.
        self.ahead = float(np.sign(fixed[0] - seat[0])), float(np.sign(eye[0] - seat[0]))
        self.baseline = tuple(
            float(_elevation(complex(*(end - joint)), ahead))
            for end, joint, ahead in ((fixed, front, self.ahead[0]), (eye, rear, self.ahead[1]))
        )
        # Both bends are alike: each over its half-length, in rad of the size of the bend itself.
        self.bends = 1.0, -a / b

        _, jacobian, along = self._equations(np.zeros((1, 3)), np.zeros(1))
        self.sign = sense(jacobian)[0]
        # Fore-aft, pitch and shackle turn with their rates at every stage up and down as far as anybody asked: each
        # is walked to once, and what lies between is found from the nearest.
        drawn = np.stack([np.zeros((1, 3)), -solve(jacobian, along)], axis=1)
        self._rungs = {1: drawn, -1: drawn}
        self._ended = {1: False, -1: False}

    def _from(self, begin: Array, rates: Array, ahead: Array, travel: Array) -> tuple[Array, Array, Array]:
        """State and rates (N, 3) at travels from known ones so far off, and whether they were found."""
        state, met, jacobian, along = self._newton(begin + rates * ahead[:, None], travel)
        found = met & (sense(jacobian) == self.sign)
        safe = np.where(found[:, None, None], jacobian, np.eye(3))
        return state, np.where(found[:, None], -solve(safe, along), 0.0), found

    def _walk(self, up: int, down: int) -> None:
        """So many stages both ways, or until one way ends."""
        wanted = {1: up, -1: down}
        while going := [w for w in (1, -1) if not self._ended[w] and len(self._rungs[w]) <= wanted[w]]:
            last = np.stack([self._rungs[w][-1] for w in going])
            to = np.array([w * STAGE_MM * len(self._rungs[w]) for w in going])
            state, rates, found = self._from(last[:, 0], last[:, 1], STAGE_MM * np.array(going), to)
            for n, w in enumerate(going):
                if found[n]:
                    self._rungs[w] = np.concatenate([self._rungs[w], np.stack([state[n], rates[n]])[None]])
                else:
                    self._ended[w] = True

    def motion(self, travel: Array) -> PackMotion:
        near = np.rint(travel / STAGE_MM).astype(int)
        self._walk(int(near.max(initial=0)), int(-near.min(initial=0)))
        near = np.clip(near, 1 - len(self._rungs[-1]), len(self._rungs[1]) - 1)
        ladder = np.concatenate([self._rungs[-1][:0:-1], self._rungs[1]])
        begin = ladder[near + len(self._rungs[-1]) - 1]
        ahead = travel - near * STAGE_MM
        state, rates, ok = np.zeros((travel.size, 3)), np.zeros((travel.size, 3)), np.abs(ahead) <= STAGE_MM
        if ok.any():
            state[ok], rates[ok], ok[ok] = self._from(begin[ok, 0], begin[ok, 1], ahead[ok], travel[ok])
        return PackMotion(state[:, 0], state[:, 1], state[:, 2], rates[:, 0], rates[:, 1], ok)

    def _newton(self, state: Array, travel: Array) -> tuple[Array, Array, Array, Array]:
        (state,), missed, jacobian = newton(
            lambda at, which: self._equations(at[0], travel[which])[:2], _stepped, (state,), within=SOUGHT,
            most=_NEWTON_STEPS,
        )  # fmt: skip
        *_, along = self._equations(state, travel)
        return state, np.abs(missed).max(axis=1) < MET, jacobian, along

    def _equations(self, state: Array, travel: Array) -> tuple[Array, Array, Array]:
        """Residuals (N, 3) in mm and rad, Jacobian by state (N, 3, 3), and derivative by travel (N, 3)."""
        x, pitch, swing = state.T
        # In side view a point is x + iz: a turn from x towards z is a product, and few calls do for many positions.
        turn = np.exp(1j * pitch)
        wheel = self.wheel + x + 1j * travel
        # The shackle's turn is counted the other way round from pitch in this view.
        hang = self.hang * np.exp(-1j * swing)
        missed = np.zeros_like(state)
        jacobian, along = np.zeros((*state.shape, 3)), np.zeros_like(state)
        for i, (eye, joint, arm) in enumerate(
            ((self.fixed, self.front * turn, self.front_arm), (self.pivot + hang, self.rear * turn, self.rear_arm))
        ):
            span: Plane = eye - wheel - joint
            length = np.abs(span)
            missed[:, i] = length - arm
            jacobian[:, i, 0], along[:, i] = -span.real / length, -span.imag / length
            # Joint and shackle turn at right angles to themselves.
            leaned: Plane = span.conj() * joint
            jacobian[:, i, 1] = leaned.imag / length
            # Curvature: elevation of each eye in axle axes, less its baseline, over its half-length.
            ahead, bends = self.ahead[i], self.bends[i]
            missed[:, 2] += bends * (_elevation(span, ahead) - ahead * pitch - self.baseline[i])
            # d(elevation) = ahead·(rx·drz − rz·drx)/r²
            slope = ahead * bends / length**2
            jacobian[:, 2, 0] += slope * span.imag
            along[:, 2] -= slope * span.real
            jacobian[:, 2, 1] -= slope * leaned.real + bends * ahead
            if i:
                swung: Plane = span.conj() * hang
                jacobian[:, 1, 2] = swung.imag / length
                jacobian[:, 2, 2] = -slope * swung.real
        return missed, jacobian, along


def _stepped(at: State, step: Array) -> State:
    """A step of fore-aft, pitch and shackle turn, cut where it would leave the branch."""
    return (at[0] + np.clip(step, [-20, -0.1, -0.3], [20, 0.1, 0.3]),)


def _elevation(span: Plane | complex, ahead: float) -> Array:
    """Angle of a line above horizontal, whichever way it points along x."""
    return np.arctan2(np.imag(span), ahead * np.real(span))
