"""The whole job as a new user walks it, and what happens when things go wrong."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.browser.adding import add_change
from tests.browser.drawn import box_of
from tests.browser.signing import sign_all_the_same

JOB = "/jobs/van-2026-washed-out-track"


def sign_in(page: Page) -> None:
    page.get_by_role("button", name="Ines Tarrow").click()


def open_job(page: Page, stage: str) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto(f"{JOB}/{stage}")
    expect(page.get_by_test_id("rise-front")).to_be_visible()


def saved(page: Page) -> None:
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")


def test_one_job_from_brief_to_proof(page: Page, tmp_path: Path) -> None:
    page.goto("/")
    sign_in(page)
    page.get_by_text("Post van: up for the washed-out track").click()
    expect(page).to_have_url(re.compile("/plan$"))

    # A rear measurement in fractions.
    page.get_by_role("link", name="Measure").click()
    field = page.get_by_label("Hub to arch, rear left")
    field.fill("15 9/16")
    field.press("Enter")
    expect(page.get_by_label("Hub to arch, rear right")).to_be_focused()
    expect(page.get_by_text("= 395.3 mm")).to_be_visible()
    saved(page)

    # A strut-top spacer: the stud finding, and its cure.
    page.keyboard.press("Escape")  # leaves the field, so that the digit is a stage and not a reading
    page.keyboard.press("3")
    expect(page).to_have_url(re.compile("/plan$"))
    add_change(page, "Strut-top spacer", "Front")
    thickness = page.get_by_label("Thickness, Strut-top spacer, front").last
    thickness.fill("16")
    thickness.press("Enter")
    expect(page.get_by_test_id("rise-front")).to_contain_text("+32")
    stud = page.locator("[data-finding='stud_engagement.front']")
    expect(stud).to_contain_text("Stops")
    expect(stud).to_contain_text("5.5")
    expect(page.get_by_text("Stopped: not to be built like this")).to_be_visible()
    stud.get_by_role("button", name="Longer studs").click()
    expect(stud).to_have_count(0)
    expect(page.get_by_text("Longer studs, front")).to_be_visible()
    expect(page.get_by_text("Stopped: not to be built like this")).to_have_count(0)
    saved(page)

    # What the alignment leaves over.
    page.get_by_role("link", name="Align").click()
    left_over = page.get_by_test_id("left-over")
    expect(left_over).to_contain_text("Camber rear left stays")
    expect(left_over).to_contain_text("at its stop")

    # The card, printed and ticked.
    page.get_by_role("link", name="Build").click()
    with page.context.expect_page() as opened:
        page.get_by_role("button", name="Card", exact=True).click()
    answer = page.request.get(opened.value.url)
    (tmp_path / "card.pdf").write_bytes(answer.body())
    text = "\n".join(p.extract_text() for p in PdfReader(tmp_path / "card.pdf").pages)
    assert "Strut-top studs" in text
    opened.value.close()
    first = page.locator("[data-step='ready.heights'] input[type=checkbox]")
    first.check()
    expect(page.locator("[data-step='ready.heights']")).to_contain_text("Ines Tarrow")
    torque = page.get_by_label("Torque read, damper rod nut, front left")
    torque.fill("64 lbf·ft")
    torque.press("Enter")
    expect(page.locator("[data-step='front.left.spring_on_unit.on']")).to_contain_text(
        "87 N·m was read, 62 N·m is the figure"
    )
    torque.fill("46 lbf·ft")
    torque.press("Enter")
    expect(page.locator("[data-step='front.left.spring_on_unit.on']")).not_to_contain_text("is the figure")
    expect(page.locator("[data-step='front.left.spring_on_unit.on']")).to_contain_text("Ines Tarrow")

    # One step fills the screen, by keyboard.
    page.get_by_role("button", name="One step at a time").click()
    step = page.get_by_role("dialog", name="One step at a time")
    expect(step).to_contain_text("Lay out every part")
    # Work stops at this one: Enter alone says nothing, and neither does the large button.
    page.keyboard.press("Enter")
    expect(step).to_contain_text("Lay out every part")
    expect(step.get_by_role("button", name="Hold: say that it is so")).to_be_disabled()
    page.keyboard.press("h")
    expect(step.get_by_role("button", name="It is so")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Enter")
    expect(step).to_contain_text("Look for rust")
    # Enter on a button is that button's: going back or closing says of no step that it is done.
    done = step.get_by_text(re.compile(r"\d+ done")).inner_text()
    step.get_by_role("button", name="Step back").press("Enter")
    expect(step).to_contain_text("Lay out every part")
    expect(step.get_by_text(re.compile(r"\d+ done"))).to_have_text(done.replace("3 of", "2 of"))
    step.get_by_role("button", name="not done after all").click()
    expect(step.get_by_text(re.compile(r"1 done"))).to_be_visible()
    # The keyboard stays inside, and comes back to where it was.
    for _ in range(12):
        page.keyboard.press("Tab")
    assert page.evaluate("() => !!document.activeElement?.closest('[role=dialog]')")
    step.get_by_role("button", name="Close").press("Enter")
    expect(step).to_have_count(0)
    expect(page.get_by_role("button", name="One step at a time")).to_be_focused()
    expect(page.locator("[data-step='ready.inspect']")).not_to_contain_text("Ines Tarrow")
    page.get_by_role("button", name="One step at a time").click()
    page.keyboard.press("Escape")
    expect(step).to_have_count(0)

    # The proof.
    page.get_by_role("link", name="Prove").click()
    for place, height in {"front left": "419", "front right": "416", "rear left": "416", "rear right": "417"}.items():
        after = page.get_by_label(f"Hub to arch, {place}")
        after.fill(height)
        after.press("Enter")
    expect(page.get_by_test_id("verdict")).to_contain_text("As predicted")
    sign_all_the_same(page, "Ticked on paper")
    expect(page.get_by_test_id("signed")).to_contain_text("Ines Tarrow")

    # Everything is there after a reload.
    page.reload()
    expect(page.get_by_test_id("signed")).to_contain_text("Ines Tarrow")
    expect(page.get_by_label("Hub to arch, front left")).to_have_value("419")
    expect(page.get_by_role("row", name=re.compile("rear sags under mail"))).to_contain_text("+17")
    page.get_by_role("link", name="Measure").click()
    expect(page.get_by_label("Hub to arch, rear left")).to_have_value("15 9/16")
    page.get_by_role("link", name="Build").click()
    expect(page.get_by_label("Torque read, damper rod nut, front left")).to_have_value("46 lbf·ft")

    # Out, away, in again: identical.
    page.get_by_role("link", name="All jobs").click()
    with page.expect_download() as download:
        page.get_by_label("Copy out Post van: up for the washed-out track").click()
    file = tmp_path / "job.inclinum.json"
    download.value.save_as(file)
    page.get_by_label("Delete Post van: up for the washed-out track").click()
    page.get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_text("up for the washed-out track")).to_have_count(0)
    page.get_by_label("Job file").set_input_files(file)
    expect(page.get_by_role("heading", name="Post van: up for the washed-out track")).to_be_visible()
    again = page.request.get("/api/jobs/van-2026-washed-out-track/file").json()
    told = again["job"]["prove"]["sign_off"]
    assert told["brought_in_by"] == "Ines Tarrow", "a signature in a file is one that was brought"
    told |= {"brought_in_by": None, "brought_in_at": None}
    assert again == json.loads(file.read_text())


@pytest.mark.refused
def test_a_refused_reading_keeps_what_was_typed_even_over_a_reload(page: Page) -> None:
    open_job(page, "measure")
    field = page.get_by_label("Hub to arch, front left")
    field.fill("38 parsec")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("“parsec” is no unit of length")
    page.reload()
    expect(field).to_have_value("38 parsec")
    expect(page.get_by_role("alert")).to_contain_text("no unit of length")
    field.fill("387")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_have_count(0)
    right = page.get_by_label("Hub to arch, front right")
    right.fill("425")
    right.press("Enter")
    expect(page.get_by_text("Left and right differ by 38 mm: same reference?")).to_be_visible()


def test_dragging_an_axle_asks_for_ways_and_takes_one(page: Page) -> None:
    open_job(page, "plan")
    handle = page.get_by_role("slider", name="Rise of the front axle")
    box = box_of(handle)
    page.mouse.move(box["x"] + 40, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 40, box["y"] + 6, steps=6)
    page.mouse.up()
    ways = page.get_by_test_id("ways")
    expect(ways).to_contain_text("at the front")
    wanted = int(re.sub(r"\D", "", (ways.get_by_role("heading").inner_text().split("mm")[0])))
    assert wanted > 17
    way = ways.get_by_role("listitem").get_by_role("button").first
    expect(way).to_contain_text("mm")
    way.click()
    expect(page.get_by_test_id("rise-front")).to_contain_text(re.compile(rf"\+({wanted - 1}|{wanted}|{wanted + 1})\b"))
    handle.press("ArrowUp")
    expect(ways).to_contain_text("Ways to")


def test_switching_a_change_off_shows_what_it_does(page: Page) -> None:
    open_job(page, "plan")
    expect(page.get_by_test_id("rise-rear")).to_contain_text("+20")
    page.get_by_label("Spring-seat spacer, rear: in the plan").uncheck()
    expect(page.get_by_test_id("rise-rear")).to_have_text(re.compile("^0"))
    page.get_by_label("Spring-seat spacer, rear: in the plan").check()
    expect(page.get_by_test_id("rise-rear")).to_contain_text("+20")
    slider = page.get_by_role("slider", name="Thickness, Spring-seat spacer, rear")
    slider.press("ArrowRight")
    expect(page.get_by_test_id("rise-rear")).to_contain_text("+22")
    page.get_by_label("Units: mm").click()
    expect(page.get_by_test_id("rise-rear")).to_contain_text("+0.86")


@pytest.mark.refused
def test_two_hands_on_one_stage_see_both_values(page: Page) -> None:
    open_job(page, "brief")
    job = page.request.get("/api" + JOB).json()
    theirs = job["job"]["brief"] | {"load": "empty, full tank"}
    page.request.put(
        f"/api{JOB}/brief",
        data={"kind": "car", "version": 1, "section": theirs},
        headers={"x-acting-person": "Bram%20Okkel"},
    )
    page.get_by_label("On board when heights are taken").fill("driver and mail")
    page.get_by_label("What for").click()
    clash = page.get_by_role("dialog", name="Two hands on the same stage")
    expect(clash).to_contain_text("driver and mail")
    expect(clash).to_contain_text("empty, full tank")
    expect(clash.locator("[data-contested]")).to_have_count(1)
    expect(clash.get_by_role("button", name="Keep these")).to_be_disabled()
    clash.get_by_role("button", name="yours, driver and mail").click()
    clash.get_by_role("button", name="Keep these").click()
    saved(page)
    assert page.request.get("/api" + JOB).json()["job"]["brief"]["load"] == "driver and mail"


def test_what_only_one_of_two_changed_is_kept_without_asking(page: Page) -> None:
    open_job(page, "brief")
    job = page.request.get("/api" + JOB).json()
    theirs = job["job"]["brief"] | {"purpose": "For the washed-out track, says Bram"}
    who = {"x-acting-person": "Bram%20Okkel"}
    body = {"kind": "car", "version": 1, "section": theirs}
    assert page.request.put(f"/api{JOB}/brief", data=body, headers=who).ok
    page.get_by_label("On board when heights are taken").fill("driver and mail")
    page.get_by_label("On board when heights are taken").blur()
    saved(page)
    brief = page.request.get("/api" + JOB).json()["job"]["brief"]
    assert (brief["load"], brief["purpose"]) == ("driver and mail", "For the washed-out track, says Bram")
    expect(page.get_by_label("What for", exact=True)).to_have_value("For the washed-out track, says Bram")


def test_a_second_tab_sees_what_the_first_one_saved(page: Page) -> None:
    open_job(page, "brief")
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.get_by_label("On board when heights are taken")).to_be_visible()
    page.get_by_label("On board when heights are taken").fill("two sacks")
    page.get_by_label("On board when heights are taken").blur()
    saved(page)
    expect(other.get_by_label("On board when heights are taken")).to_have_value("two sacks")
    other.get_by_label("What for", exact=True).fill("Told in the second tab")
    other.get_by_label("What for", exact=True).blur()
    saved(other)
    expect(page.get_by_label("What for", exact=True)).to_have_value("Told in the second tab")
    brief = page.request.get("/api" + JOB).json()["job"]["brief"]
    assert (brief["load"], brief["purpose"]) == ("two sacks", "Told in the second tab")


@pytest.mark.refused
def test_typing_while_the_server_is_away_loses_nothing(page: Page) -> None:
    open_job(page, "brief")
    page.route("**/api/**", lambda route: route.abort())
    page.get_by_label("On board when heights are taken").fill("two sacks of flour")
    page.get_by_label("What for").click()
    expect(page.get_by_test_id("saved")).to_contain_text("Not saved")
    page.unroute("**/api/**")
    page.reload()
    expect(page.get_by_label("On board when heights are taken")).to_have_value("two sacks of flour")
    saved(page)
    assert page.request.get("/api" + JOB).json()["job"]["brief"]["load"] == "two sacks of flour"


@pytest.mark.refused
def test_an_unknown_job_and_a_bad_file_are_told_with_a_way_out(page: Page, tmp_path: Path) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/nowhere/plan")
    expect(page.get_by_role("alert")).to_contain_text("There is no job “nowhere”")
    page.get_by_role("link", name="To the list of jobs").click()
    bad = tmp_path / "bad.json"
    bad.write_text('{"format": "inclinum-job", "version": 1, "job": {"id": "x"}}')
    page.get_by_label("Job file").set_input_files(bad)
    expect(page.get_by_role("alert")).to_contain_text("This field is missing")


def test_first_load_stays_within_its_weight(page: Page) -> None:
    sizes: dict[str, int] = {}

    def weigh(response) -> None:
        if response.url.endswith((".js", ".css")):
            sizes[response.url] = response.request.sizes()["responseBodySize"]

    page.on("response", weigh)
    open_job(page, "plan")
    page.wait_for_load_state("networkidle")
    assert len(sizes) > 5
    assert sum(sizes.values()) < 250_000
