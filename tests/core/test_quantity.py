"""What people type, and roots of one variable."""

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum.core.quantity import Angle, EntryError, Kind, Length, newton_metres_to_pound_feet, parse
from inclinum.core.quantity.root import SETTLED, cell, rising_root, roots


@pytest.mark.parametrize(
    ("text", "mm", "tolerance"),
    [
        ("5 3/4", 146.05, None),
        ('5-3/4"', 146.05, None),
        ("146", 146.0, None),
        ("14.6cm", 146.0, None),
        ("14,6 cm", 146.0, None),
        ("146 ± 2", 146.0, 2.0),
        ("5.75in ±1/8", 146.05, 3.175),
        ("-3/8", -9.525, None),
        ("1.2 m +/- 5 mm", 1200.0, 5.0),
    ],
)
def test_lengths_as_a_tape_reads(text: str, mm: float, tolerance: float | None) -> None:
    entry = parse(text)
    assert entry.value == pytest.approx(mm, abs=1e-9)
    assert entry.tolerance == (None if tolerance is None else pytest.approx(tolerance))
    assert entry.text == text


def test_angles_take_minutes_and_keep_the_sign_of_nothing() -> None:
    assert parse("1°30'", Kind.ANGLE).value == 1.5
    assert parse("-0 45'", Kind.ANGLE).value == -0.75
    with pytest.raises(EntryError, match="a degree has 60"):
        parse("1°75'", Kind.ANGLE)


def test_a_bare_number_is_in_the_persons_own_unit() -> None:
    assert parse("15.25", default_unit="in").value == pytest.approx(387.35)


@pytest.mark.parametrize(
    "text", ["", "abc", "5 3/0", "12 parsec", "nan", "inf", "1e5", "4 ± 1 ± 1", "5 ± -1", "9" * 70]
)
def test_nonsense_is_refused_with_a_sentence(text: str) -> None:
    with pytest.raises(EntryError) as refused:
        parse(text)
    assert str(refused.value).endswith((".", "?"))


def test_a_document_may_give_the_text_alone_but_not_a_lie() -> None:
    assert Length.model_validate('15 5/8" ± 1/16').value == pytest.approx(396.875)
    with pytest.raises(ValidationError, match="reads as 146, not as 150"):
        Length.model_validate({"text": "146", "value": 150.0, "unit": "mm"})
    with pytest.raises(ValidationError, match="no unit of angle"):
        Angle.model_validate("3 mm")


def test_torque_in_both_units() -> None:
    assert newton_metres_to_pound_feet(100.0) == pytest.approx(73.7562, abs=1e-4)


@given(st.integers(0, 40), st.integers(0, 63), st.sampled_from([2, 4, 8, 16, 32, 64]))
def test_any_fraction_of_an_inch_comes_back(whole: int, numerator: int, denominator: int) -> None:
    assert parse(f"{whole} {numerator}/{denominator}").value == pytest.approx(25.4 * (whole + numerator / denominator))


@given(st.text(max_size=30))
def test_whatever_is_typed_gives_a_finite_number_or_a_sentence(text: str) -> None:
    try:
        value = parse(text).value
    except EntryError as refused:
        value = len(str(refused))
    assert abs(value) < float("inf")


@example(at=-0.02, slope=0.01, bend=0.0, kink=0.0, stiffer=300.0, start=1e-7)
@example(at=6e-8, slope=1.0, bend=0.0, kink=0.0, stiffer=1.0, start=40.0)
@example(at=0.0, slope=1.0, bend=0.25, kink=1e-6, stiffer=78.0, start=0.25)
@given(
    at=st.floats(-40, 40), slope=st.floats(0.01, 50), bend=st.floats(0, 5),
    kink=st.floats(-45, 45), stiffer=st.floats(0, 300), start=st.floats(-49, 49),
)  # fmt: skip
def test_a_rising_force_is_met_where_it_is_and_one_by_one_as_all_at_once(
    at: float, slope: float, bend: float, kink: float, stiffer: float, start: float
) -> None:
    """A spring with a bend in it and a rubber that is met somewhere: its slope jumps there, even at the root."""

    def force(x: float) -> float:
        return slope * x + bend * x**3 / 1000 + stiffer * max(0.0, x - kink)

    load = force(at)
    # What is settled by a step off the rubber is off by as many such steps as the rubber is stiffer than the spring.
    near = 1e-8 + SETTLED * stiffer / slope

    asked = 0

    def missing(x: float) -> tuple[float, float]:
        nonlocal asked
        asked += 1
        return force(x) - load, slope + 3 * bend * x**2 / 1000 + (stiffer if x > kink else 0.0)

    found = rising_root(missing, -50.0, 50.0, start)
    assert found == pytest.approx(at, abs=near)
    together = roots(
        lambda x: tuple(np.array(v) for v in zip(*map(missing, x.tolist()), strict=True)),  # type: ignore[arg-type]
        np.full(2, -50.0), np.full(2, 50.0), np.zeros(2),
    )  # fmt: skip
    assert together == pytest.approx([at] * 2, abs=near)
    # Whoever begins at the root is there: one that waits for others does not leave it and begin all over.
    asked = 0
    assert rising_root(missing, -50.0, 50.0, found) == pytest.approx(at, abs=near)
    roots(
        lambda x: tuple(np.array([v]) for v in missing(float(x[0]))),  # type: ignore[arg-type]
        np.full(1, -50.0), np.full(1, 50.0), np.full(1, found),
    )  # fmt: skip
    assert asked <= 20
    table = np.linspace(-50.0, 50.0, 34)
    low, high, between = cell(table, np.array([force(x) for x in table]), load)
    assert low - 1e-9 <= found <= high + 1e-9
    assert low - 1e-9 <= between <= high + 1e-9
    assert rising_root(missing, low, high, between) == pytest.approx(at, abs=near)
    assert high - low == pytest.approx(100 / 33)
