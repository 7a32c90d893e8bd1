"""The motion of a leaf-sprung axle: each pack a chain of three rigid links, the two sides joined by the axle.

In side view a pack is two rigid arms on the straight lines from its eyes to the seat, with joints at a share (0.75)
of each half-length; both arms pivot on the seat piece, which is the axle. The free eye hangs on a shackle. The chain
still has one freedom too many, closed by one curvature of the whole pack: both arms turn against the axle by angles
in proportion to their half-lengths, δf/a = δr/b. Far droop has a second root, so travel is followed from baseline.

In roll each side is solved at its own height; the axle takes the mean of both pitches, steers by their difference
fore and aft, and rolls about the line through the packs at the height of their eyes. The torque a stiff axle tube
then puts on the seats is left out.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.body import Poses, TravelRange
from inclinum.core.kinematics.branch import State, end_of_reach, newton, sense, solve, stages
from inclinum.core.kinematics.constraints import NEUTRAL, Adjustment
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

    def bush_turns(self, poses: Poses) -> dict[str, float]:
        """What the bushes of the shackle and of the fixed eye turn by from the first pose to the last, rad, unsigned.

        The arm at the fixed eye is the rigid one of the model, up to its joint on the seat piece.
        """
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
        self.wheel, self.fixed, self.pivot = wheel, fixed, pivot
        self.a, self.b = np.hypot(*(fixed - seat)), np.hypot(*(eye - seat))
        front, rear = fixed + share * (seat - fixed), eye + share * (seat - eye)
        self.front, self.rear = front - wheel, rear - wheel
        self.front_arm, self.rear_arm = share * self.a, share * self.b
        self.hang = eye - pivot
        # Which way each eye lies from the seat decides the sign of its elevation.
        self.ahead = np.array([np.sign(fixed[0] - seat[0]), np.sign(eye[0] - seat[0])])
        self.baseline = np.array([_elevation(fixed - front, self.ahead[0]), _elevation(eye - rear, self.ahead[1])])

    def motion(self, travel: Array) -> PackMotion:
        state = np.zeros((travel.size, 3))  # fore-aft, pitch, shackle turn
        ok = np.ones(travel.size, dtype=bool)
        _, jacobian, along = self._equations(state, np.zeros_like(travel))
        sign, rates = sense(jacobian), -solve(jacobian, along)
        for reached, ahead in stages(travel, STAGE_MM):
            # A position beyond the end is lost for good: looking for it again at every stage takes the longest.
            live = np.flatnonzero(ok)
            if not live.size:
                break
            begin = state[live] + rates[live] * (ahead - reached)[live, None]
            state[live], met, jacobian, along = self._newton(begin, ahead[live])
            found = met & (sense(jacobian) == sign[live])
            safe = np.where(found[:, None, None], jacobian, np.eye(3))
            rates[live], ok[live] = np.where(found[:, None], -solve(safe, along), 0.0), found
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
        wheel = self.wheel + np.stack([x, travel], axis=-1)
        front, front_turn = _turned(self.front, pitch)
        rear, rear_turn = _turned(self.rear, pitch)
        # The shackle's turn is counted the other way round from pitch in this view.
        hang, hang_turn = _turned(self.hang, -swing)
        to_fixed = self.fixed - (wheel + front)
        to_eye = self.pivot + hang - (wheel + rear)
        missed = np.empty_like(state)
        jacobian, along = np.zeros((*state.shape, 3)), np.zeros_like(state)
        for i, (span, arm, carried) in enumerate(
            ((to_fixed, self.front_arm, front_turn), (to_eye, self.rear_arm, rear_turn))
        ):
            length = np.hypot(span[:, 0], span[:, 1])
            along_span = span / length[:, None]
            missed[:, i] = length - arm
            jacobian[:, i, 0], along[:, i] = -along_span[:, 0], -along_span[:, 1]
            jacobian[:, i, 1] = -(along_span * carried).sum(-1)
        jacobian[:, 1, 2] = -(to_eye * hang_turn).sum(-1) / np.hypot(to_eye[:, 0], to_eye[:, 1])
        # Curvature: elevation of each eye in axle axes, less its baseline, over its half-length.
        weight = np.array([1 / self.a, -1 / self.b])
        total = np.zeros_like(x)
        for i, (span, carried) in enumerate(((to_fixed, front_turn), (to_eye, rear_turn))):
            ahead, square = self.ahead[i], (span**2).sum(-1)
            bent = _elevation(span, ahead) - ahead * pitch - self.baseline[i]
            total += weight[i] * bent
            # d(elevation) = ahead·(rx·drz − rz·drx)/r²
            slope = ahead * weight[i] / square
            jacobian[:, 2, 0] += slope * span[:, 1]
            along[:, 2] += -slope * span[:, 0]
            jacobian[:, 2, 1] += slope * (-span[:, 0] * carried[:, 1] + span[:, 1] * carried[:, 0])
            jacobian[:, 2, 1] -= weight[i] * ahead
        eye_slope = self.ahead[1] * weight[1] / (to_eye**2).sum(-1)
        jacobian[:, 2, 2] = eye_slope * -(to_eye[:, 0] * hang_turn[:, 1] - to_eye[:, 1] * hang_turn[:, 0])
        missed[:, 2] = total * self.a  # rad, of the size of the bend itself
        jacobian[:, 2] *= self.a
        along[:, 2] *= self.a
        return missed, jacobian, along


def _stepped(at: State, step: Array) -> State:
    """A step of fore-aft, pitch and shackle turn, cut where it would leave the branch."""
    return (at[0] + np.clip(step, [-20, -0.1, -0.3], [20, 0.1, 0.3]),)


def _turned(v: Array, angle: Array) -> tuple[Array, Array]:
    """A vector (x, z) turned from x towards z, and its derivative by the angle."""
    c, s = np.cos(angle), np.sin(angle)
    turned = np.stack([c * v[0] - s * v[1], s * v[0] + c * v[1]], axis=-1)
    return turned, np.stack([-turned[:, 1], turned[:, 0]], axis=-1)


def _elevation(span: Array, ahead: Array | float) -> Array:
    """Angle of a line above horizontal, whichever way it points along x."""
    return np.arctan2(span[..., 1], ahead * span[..., 0])
