"""What stands on paper."""

import io
import re

import pytest
from pypdf import PdfReader

from inclinum import report
from inclinum.core.car.alignment import align
from inclinum.core.car.card import card
from inclinum.core.car.changes import LongerStuds, SeatSpacer, StrutTopSpacer
from inclinum.core.car.job import Job
from inclinum.core.card.record import StepTick
from inclinum.demo import demo_jobs
from tests.core.test_prediction import with_changes


def text_of(html: str) -> tuple[str, int]:
    pages = PdfReader(io.BytesIO(report.pdf(html))).pages
    return re.sub(r"\s+", " ", "\n".join(p.extract_text() for p in pages)), len(pages)


def test_the_alignment_sheet_is_one_page_with_every_wheel(in_hand: Job) -> None:
    text, pages = text_of(report.alignment_html(in_hand))
    assert pages == 1
    for wheel in align(in_hand).wheels:
        assert f"{wheel.axle.capitalize()} {wheel.side}" in text
        for setting in wheel.settings:
            assert setting.instruction in text
    for sentence in align(in_hand).left_over:
        assert sentence in text
    assert "404 mm" in text, "the height it holds at"


def test_the_card_has_every_step_and_every_known_torque(in_hand: Job) -> None:
    text, _ = text_of(report.card_html(in_hand))
    for step in card(in_hand).steps:
        assert re.sub(r"\s+", " ", step.text) in text
        for use in step.fasteners:
            if use.torque_nm:
                assert f"{use.torque_nm:g} N·m" in text
                assert f"({use.torque_lbf_ft:.0f} lbf·ft)" in text
    assert "A plan is not a certificate" in text


def test_a_printed_card_tells_what_was_passed_over_and_what_it_does_not_tighten(in_hand: Job) -> None:
    step = next(s for s in card(in_hand).steps if s.id == "front.left.spring_on_unit.off")
    tick = {"step": step.id, "done_at": "2026-11-26T10:00:00Z", "by": "Ines Tarrow", "despite": "no spring <in> it"}
    build = in_hand.build.model_copy(update={"ticks": (StepTick.model_validate(tick),)})
    text, _ = text_of(report.card_html(in_hand.model_copy(update={"build": build})))
    assert "Passed over: “no spring <in> it”" in text
    assert text.count("Passed over") == 1
    only_rear = with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=15))
    text, _ = text_of(report.card_html(only_rear))
    for line in card(only_rear).unused:
        assert line in text
    assert "Not tightened by this card" in text or not card(only_rear).unused


def test_a_stopped_card_says_so_and_carries_the_override(in_hand: Job) -> None:
    stopped = with_changes(in_hand, StrutTopSpacer(axle="front", thickness_mm=18))
    text, _ = text_of(report.card_html(stopped))
    assert "STOPPED by: Front strut-top nuts do not get full thread" in text
    assert "Not to be built without a written override" in text
    written = stopped.model_copy(update={"plan": stopped.plan.model_copy(update={"override": "Paper 12 <b>"})})
    text, _ = text_of(report.card_html(written))
    assert "Written override: “Paper 12 <b>”" in text, "what people write is words, not markup"


@pytest.mark.parametrize("job", demo_jobs(), ids=lambda j: j.id)
def test_every_demo_job_has_its_sheets(job: Job) -> None:
    for html in (report.card_html(job), report.alignment_html(job)):
        assert job.title in html
        assert "nan" not in re.findall(r"[a-z]+", html)


def test_parts_of_every_change_are_on_the_list(in_hand: Job) -> None:
    job = with_changes(
        in_hand,
        StrutTopSpacer(axle="front", thickness_mm=12, part="YS-T12"),
        LongerStuds(axle="front", stud_length_mm=30),
        SeatSpacer(axle="rear", thickness_mm=15, part="YS-K15"),
    )
    ready = card(job).preflight
    assert ready.parts == [
        "2 strut-top spacers 12 mm YS-T12 (front)",
        "Strut-top studs, 30 mm of thread above the tower, all of both sides (front)",
        "2 spring-seat spacers 15 mm YS-K15 (rear)",
    ]
    assert "6 × strut-top nut, new (front)" in ready.hardware
    assert any("compressor" in t for t in ready.tools)
    assert len(set(ready.tools)) == len(ready.tools)
    only_rear = card(with_changes(in_hand, SeatSpacer(axle="rear", thickness_mm=15))).preflight
    assert not any("compressor" in t for t in only_rear.tools), "only what this plan needs"
