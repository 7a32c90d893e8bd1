"""How a card ends: adjusters at their baseline, heights read, the rack, the road, and what is handed over."""

from collections.abc import Iterable, Iterator

from inclinum.core.car.alignment import Alignment
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import Prediction
from inclinum.core.card import cautions
from inclinum.core.card.schools import EXTREME
from inclinum.core.card.settings import SettingRow
from inclinum.core.card.steps import Step
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.quantity.words import plus_minus, signed

PROVE, HAND_OVER = "Prove and align", "Hand over"
WORTH_SETTING_MM = 1.0
"""A drag link or an axle off by less is within what is read."""


def adjusted(job: Job, alignment: Alignment) -> Iterator[SettingRow]:
    """Adjusters that are set to a solved value, read before and after; an extreme is found again without."""
    for wheel in alignment.wheels:
        for setting in wheel.settings:
            if setting.set_mm and not (setting.eccentric and job.brief.schools.first_camber == "at one extreme"):
                yield SettingRow(
                    key=f"align.{setting.key}", axle=wheel.axle, side=wheel.side, steps=(f"align.{setting.key}",),
                    name=f"{setting.name}, {setting.read}", unit=setting.read_in, by=setting.read_by,
                )  # fmt: skip


def baselines(job: Job, alignment: Alignment, axle: AxleName, phase: str) -> Iterator[Step]:
    """Adjusters that do not stay as they are, set before anything is tightened where it rides."""
    to_extreme = job.brief.schools.first_camber == "at one extreme"
    for wheel in (w for w in alignment.wheels if w.axle == axle):
        for setting in (s for s in wheel.settings if s.set_mm or (s.eccentric and to_extreme)):
            if setting.eccentric and to_extreme:
                yield Step(
                    id=f"align.{setting.key}", phase=phase, axle=wheel.axle, side=wheel.side,
                    text=f"Baseline before the rack: {setting.name} to one extreme, the same way left and right, only "
                    f"hand tight; the rack takes it from there. {EXTREME}",
                    figure="one extreme", minutes=(3, 8),
                )  # fmt: skip
                continue
            yield Step(
                id=f"align.{setting.key}",
                phase=phase,
                axle=wheel.axle,
                side=wheel.side,
                text=f"Baseline before the rack: {setting.name}, {setting.instruction}. Lock it; again after the rack.",
                figure=setting.instruction,
                minutes=(5, 12),
            )


def closing(
    job: Job, prediction: Prediction, alignment: Alignment, worked: list[AxleName], opened: list[AxleName]
) -> Iterator[Step]:
    """On its wheels again: heights, what an axle moved, brakes, adjusters nobody set before, the rack.

    Args:
        job: with its plan.
        prediction, alignment: of it.
        worked: axles something is done on.
        opened: those that came apart, whose adjusters were set there.
    """
    for axle in AXLES:
        rise = prediction.axle(axle)
        rows = [h for h in prediction.heights if h.axle == axle and h.kind == "hub_to_arch"]
        wanted = ", ".join(f"{h.side} {h.after:.0f} ± {plus_minus(h.plus_minus)} mm" for h in rows)
        whole = round(rise.rise)
        moved = f"{signed(whole, 'd')} mm" if whole else "as before"
        yield Step(
            id=f"prove.{axle}.heights",
            phase=PROVE,
            axle=axle,
            text=f"Bounce, roll a length, let it settle. Hub to arch should read {wanted} ({moved}).",
            figure=wanted,
            minutes=(4, 8),
        )
    for axle in AXLES:
        coupled = prediction.axle(axle).coupled
        short = coupled.drag_link_short_mm if coupled else None
        if short is not None and abs(short) >= WORTH_SETTING_MM:
            figure = f"{abs(short):.1f} mm {'longer' if short > 0 else 'shorter'}"
            yield Step(
                id=f"prove.{axle}.drag_link", phase=PROVE, axle=axle,
                text=f"Drag link {figure} than it was, until the steering wheel stands straight with the wheels ahead; "
                "both ends with their thread, locked.",
                figure=figure, caution=cautions.BRAKES, minutes=(5, 15),
            )  # fmt: skip
        if coupled and axle in worked and abs(coupled.shift_left_mm) >= WORTH_SETTING_MM:
            side = "left" if coupled.shift_left_mm > 0 else "right"
            yield Step(
                id=f"prove.{axle}.shift", phase=PROVE, axle=axle,
                text=f"The axle should stand {abs(coupled.shift_left_mm):.0f} mm further {side} than it did: measure "
                "rim to frame on both sides.",
                figure=f"{abs(coupled.shift_left_mm):.0f} mm {side}", minutes=(3, 6),
            )  # fmt: skip
    yield Step(
        id="prove.brakes",
        phase=PROVE,
        text="Pedal, steering lock to lock, hoses and wires free at both ends of travel and at both locks.",
        caution=cautions.BRAKES,
        minutes=(5, 10),
    )
    for axle in AXLES:
        if axle not in opened:
            yield from baselines(job, alignment, axle, PROVE)
    yield Step(
        id="align.rack",
        phase=PROVE,
        text="Drive straight to the rack, gently. Set to the alignment sheet at ride height.",
        hold="Not on the road at speed before the rack.",
        minutes=(30, 60),
    )


def hand_over(job: Job, welded: Iterable[Step], driven: Iterable[Step]) -> Iterator[Step]:
    """The road, and what the owner is told.

    Args:
        job: with its plan.
        welded: what is left to do of what was cut or welded, before the road.
        driven: and after it.
    """
    yield from welded
    yield Step(
        id="hand.lamps",
        phase=HAND_OVER,
        text="Set the lamp aim. "
        + (f"Driver assistance: {job.vehicle.driver_assist}" if job.vehicle.driver_assist else ""),
        minutes=(5, 20),
    )
    yield Step(
        id="hand.road",
        phase=HAND_OVER,
        text="Road test: straight running, braking, noises over a hump. Look at everything once more.",
        minutes=(15, 25),
    )
    yield from driven
    yield Step(
        id="hand.retorque",
        phase=HAND_OVER,
        text="Tell the owner when to come back for the re-torque, and what was changed. Hand over the sheets.",
        caution=cautions.CERTIFICATE,
        minutes=(5, 10),
    )
