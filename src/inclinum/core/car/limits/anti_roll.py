"""The anti-roll bar's link: beyond a straight line with the bar's arm it turns over and bends what it holds."""

import math

import numpy as np

from inclinum.core.car.attached import AntiRollLink
from inclinum.core.car.carried import at_ends, carried_at
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.stance import Stance
from inclinum.core.document.names import AXLES
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.words import signed


def link_and_arm(stance: Stance, travels: Array) -> tuple[Array, Array]:
    """Angle between the bar's arm and its link, and how far the arm hangs below horizontal, (N,) each, degrees.

    NaN where the link does not reach: it has pulled straight, or the arm cannot go so far.

    Args:
        stance: of an axle that has such a link.
        travels: linkage travel of both wheels alike, (N,), mm.

    Source: derived here: the eye moves on a circle about the bar's axis, which lies across; the link keeps its
    length, so the eye is where two circles meet in the side view, on the side it was on at the reference height.
    """
    link = stance.axle.anti_roll_link
    assert link is not None, "an axle without an anti-roll link has no angles of it"
    pivot, eye = np.array([link.bar_x_mm, link.bar_z_mm]), np.array(link.eye)
    arm = float(np.linalg.norm(eye[[0, 2]] - pivot))
    at, now = _eye_and_foot(stance, link, travels)
    towards = now - np.stack([pivot[0] + at[:, 0], np.full(len(at), eye[1]), pivot[1] + at[:, 1]], axis=-1)
    back = np.stack([-at[:, 0], np.zeros(len(at)), -at[:, 1]], axis=-1)
    cosine = np.sum(towards * back, axis=-1) / (np.linalg.norm(towards, axis=-1) * arm)
    return np.degrees(np.arccos(np.clip(cosine, -1, 1))), np.degrees(np.arctan2(-at[:, 1], np.abs(at[:, 0])))


def bar_eye(stance: Stance, travels: Array) -> Array:
    """Where the eye at the end of the bar's arm is, (N, 3), mm in body axes; NaN where the link does not reach.

    Args:
        stance, travels: as for :func:`link_and_arm`.
    """
    link = stance.axle.anti_roll_link
    assert link is not None, "an axle without an anti-roll link has no bar"
    at, _ = _eye_and_foot(stance, link, travels)
    return np.stack([link.bar_x_mm + at[:, 0], np.full(len(at), link.eye[1]), link.bar_z_mm + at[:, 1]], axis=-1)


def _eye_and_foot(stance: Stance, link: AntiRollLink, travels: Array) -> tuple[Array, Array]:
    """The eye from the bar's axis in the side view, (N, 2), and the foot of the link, (N, 3), mm."""
    pivot = np.array([link.bar_x_mm, link.bar_z_mm])
    eye, foot = np.array(link.eye), np.array(link.foot)
    length = float(np.linalg.norm(foot - eye)) + link.longer_mm
    arm = float(np.linalg.norm(eye[[0, 2]] - pivot))
    now = carried_at(stance, travels).place(foot, link.on)
    with np.errstate(invalid="ignore"):
        flat = np.sqrt(length**2 - (now[:, 1] - eye[1]) ** 2)
        span = now[:, [0, 2]] - pivot
        distance = np.linalg.norm(span, axis=-1)
        along = (arm**2 - flat**2 + distance**2) / (2 * distance)
        beside = np.sqrt(arm**2 - along**2)
    ahead = span / distance[:, None]
    square = np.stack([-ahead[:, 1], ahead[:, 0]], axis=-1)
    side = np.sign(_cross(foot[[0, 2]] - pivot, eye[[0, 2]] - pivot)) or 1.0
    return ahead * along[:, None] + side * square * beside[:, None], now


def _cross(a: Array, b: Array) -> float:
    return float(a[0] * b[1] - a[1] * b[0])


def longer_to_keep(before: Stance, after: Stance) -> float | None:
    """How much longer than now the link has to be for the bar's arm to stand as it did, mm; None where it cannot."""
    link = after.axle.anti_roll_link
    assert link is not None
    _, hung = link_and_arm(before, np.array([before.travel]))
    if np.isnan(hung[0]):
        return None
    pivot, eye = np.array([link.bar_x_mm, link.bar_z_mm]), np.array(link.eye)
    arm = float(np.linalg.norm(eye[[0, 2]] - pivot))
    below = math.radians(float(hung[0]))
    forward = math.copysign(1.0, eye[0] - link.bar_x_mm)
    stood = np.array([pivot[0] + forward * arm * math.cos(below), eye[1], pivot[1] - arm * math.sin(below)])
    foot = carried_at(after, np.array([after.travel])).place(np.array(link.foot), link.on)[0]
    return float(np.linalg.norm(foot - stood) - np.linalg.norm(np.array(link.foot) - eye)) - link.longer_mm


def check(case: Case) -> list[Finding]:
    """One finding per axle and end of travel at which link and arm come too near to a straight line."""
    found = []
    for name, axle, stance in both_axles(case):
        link = axle.anti_roll_link
        if link is None:
            continue
        ends, before = at_ends(stance), case.before.axle(name)
        angles, _ = link_and_arm(stance, np.array(list(ends.values())))
        was, _ = link_and_arm(before, np.array(list(at_ends(before).values())))
        for (end, angle), old in zip(zip(ends, angles, strict=True), was, strict=True):
            nearest = min(angle, 180 - angle)
            if nearest >= link.least_deg:
                continue
            over = bool(np.isnan(angle))
            told = "does not reach" if over else f"is {nearest:.0f}° from a straight line with the bar"
            found.append(
                Finding(
                    id=f"anti_roll.{name}.{end.replace(' ', '_')}",
                    axle=name,
                    severity="stops" if over or end == "ride height" else "fix",
                    what=f"{name.capitalize()} anti-roll link {told} at {end}",
                    value=0.0 if over else float(nearest),
                    limit=link.least_deg,
                    margin=(0.0 if over else float(nearest)) - link.least_deg,
                    unit="deg",
                    why=_why(link, old),
                    source="bar, link and what it stands on as measured, the linkage over its travel",
                    cures=tuple(_other_links(case, before, stance)),
                )
            )
    return found


def _why(link: AntiRollLink, old: float) -> str:
    before = "" if np.isnan(old) else f"It was {min(old, 180 - old):.0f}° before. "
    return (
        f"{before}Nearer than {link.least_deg:g}° the bar can turn over its link, and stays there: it rattles, "
        "or bends "
        "link and arm. Links of another length bring the bar back to where it stood."
    )


def _other_links(case: Case, before: Stance, after: Stance) -> list[Cure]:
    """Links that leave the bar's arm standing as it stood, on top of those that are planned."""
    name = next(n for n in AXLES if case.after.axle(n) is after)
    longer = longer_to_keep(before, after)
    if longer is None or abs(longer) < 1:
        return []
    planned = case.planned(name, "anti-roll link")
    wanted = float(round(longer)) + (planned[-1].change.size if planned else 0.0)
    return case.providing(f"{name.capitalize()} anti-roll links {signed(wanted)} mm", name, "anti-roll link", wanted)
