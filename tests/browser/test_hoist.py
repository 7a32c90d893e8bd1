"""At the hoist: one step at a time, without a mouse; what is found, set and timed on the way."""

import io
import json
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from tests.browser.test_walk import saved

JOB = "/jobs/saloon-2026-collar-kit"


def open_card(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto(f"{JOB}/build")
    expect(page.locator("[data-step='ready.heights']")).to_be_visible()


def build_of(page: Page) -> dict:
    return page.request.get(f"/api{JOB}").json()["job"]["build"]


def sent(page: Page) -> None:
    """When the server has all that was done on the card; behind the step on the screen, too."""
    expect(page.get_by_test_id("saved")).to_have_text("Saved")


def photograph() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (640, 480), "grey").save(out, "JPEG")
    return out.getvalue()


def focused(page: Page) -> str:
    return page.evaluate("document.activeElement.getAttribute('aria-label') || document.activeElement.textContent")


def pressed_in_haste(page: Page, hoist: Locator) -> None:
    """A foot that bounces on the switch: that one step is ticked, and the next one is shown."""
    page.evaluate(
        """() => { for (let n = 0; n < 3; n++) document.querySelector('[role=dialog]')
            .dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })) }"""
    )
    expect(hoist).to_contain_text("step 2 of")
    expect(hoist).to_contain_text("1 done")


def test_a_whole_card_of_collared_units_by_keyboard_alone(page: Page) -> None:
    open_card(page)
    card = page.request.get(f"/api{JOB}/card").json()
    # No mouse from here: to the button by Tab, into one step at a time by Enter.
    for _ in range(80):
        page.keyboard.press("Tab")
        if "One step at a time" in focused(page):
            break
    page.keyboard.press("Enter")
    hoist = page.get_by_role("dialog", name="One step at a time")
    expect(hoist).to_be_focused()
    for n, step in enumerate(card["steps"]):
        expect(hoist).to_contain_text(f"step {n + 1} of {len(card['steps'])}")
        expect(hoist).to_contain_text(step["text"])
        page.wait_for_timeout(260)  # who looks at a step takes as long
        if step["hold"]:
            page.keyboard.press("Enter")  # it does not go on past a hold
            expect(hoist).to_contain_text(f"step {n + 1} of {len(card['steps'])} · {n} done")
            page.keyboard.press("h")
        if n == 0:
            pressed_in_haste(page, hoist)
        else:
            page.keyboard.down("Enter")
            page.keyboard.down("Enter")  # a foot that stays on the switch
            page.keyboard.up("Enter")
        expect(hoist).to_contain_text(f"{n + 1} done")
    sent(page)
    done = build_of(page)["ticks"]
    assert [t["step"] for t in done] == [s["id"] for s in card["steps"]]
    assert all(t["minutes"] is None for t in done), "nobody started the clock"
    # Back by keyboard ticks nothing; the last tick can be taken back, and closing ticks nothing either.
    page.keyboard.press("ArrowLeft")
    expect(hoist).to_contain_text(f"step {len(done) - 1} of")
    page.keyboard.press("ArrowRight")
    for _ in range(30):
        page.keyboard.press("Tab")
        if "not done after all" in focused(page):
            break
    page.keyboard.press("Enter")
    expect(hoist).to_contain_text(f"{len(done) - 1} done")
    expect(hoist).to_be_focused()
    page.keyboard.press("Escape")
    expect(hoist).to_have_count(0)
    sent(page)
    assert len(build_of(page)["ticks"]) == len(done) - 1


@pytest.mark.refused
def test_found_on_the_way_with_a_photograph_and_its_own_job(page: Page, tmp_path: Path) -> None:
    open_card(page)
    picture = tmp_path / "joint.jpg"
    picture.write_bytes(photograph())
    page.get_by_role("button", name="One step at a time").click()
    hoist = page.get_by_role("dialog", name="One step at a time")
    for _ in range(8):
        page.keyboard.press("ArrowRight")
    expect(hoist).to_contain_text("Wheel off.")
    page.keyboard.press("f")
    page.keyboard.type("Boot torn, joint has play")
    hoist.get_by_label("Photograph: choose a file").set_input_files(picture)
    expect(hoist.get_by_role("img", name="Photograph 1")).to_be_visible()
    hoist.get_by_role("button", name="leave it as it is").click()
    hoist.get_by_role("button", name="Keep it").click()
    expect(hoist.get_by_role("alert")).to_contain_text("needs a reason")
    # What was typed outlives a reload.
    page.reload()
    expect(page.get_by_test_id("found-form").get_by_label("What was found")).to_have_value("Boot torn, joint has play")
    form = page.get_by_test_id("found-form")
    form.get_by_role("button", name="do it now").click()
    form.get_by_label("What is done about it").fill("Press a new joint in")
    form.get_by_label("Part it needs").fill("Ball joint, lower")
    form.get_by_label("to", exact=True).fill("40")
    form.get_by_role("button", name="Keep it").click()
    expect(page.get_by_test_id("found-form")).to_have_count(0)
    expect(page.get_by_test_id("found-summary")).to_contain_text("1 thing, 1 done on this job")
    extra = page.locator("[data-step^='found.']")
    expect(extra).to_contain_text("Found on the way: Boot torn, joint has play. Press a new joint in.")
    expect(page.get_by_text("Ball joint, lower (found on the way)")).to_be_attached()
    # Later it is put off to a job of its own, opened with one press.
    item = page.locator("[data-found]")
    item.get_by_role("button", name="Change").click()
    page.get_by_test_id("found-form").get_by_role("button", name="another job").click()
    page.get_by_test_id("found-form").get_by_role("button", name="Keep it").click()
    expect(page.locator("[data-step^='found.']")).to_have_count(0)
    item.get_by_role("button", name="Open a job for it").click()
    item.get_by_role("link", name="Its own job").click()
    expect(page.get_by_role("heading", name="Boot torn, joint has play")).to_be_visible()
    expect(page.get_by_label("What for")).to_have_value(
        "Found on the job “Doctor's saloon: collars”: Boot torn, joint has play"
    )


def test_a_setting_read_before_and_after_is_held_against_the_plan(page: Page) -> None:
    open_card(page)
    table = page.get_by_test_id("settings")
    before = table.get_by_label("thread showing behind the collar, rear left, before")
    before.fill("38")
    before.press("Enter")
    after = table.get_by_label("thread showing behind the collar, rear left, after")
    after.fill("41")
    after.press("Enter")
    expect(table).to_contain_text("moved by +3 mm, the plan says −3 mm")
    after.fill("35")
    after.press("Enter")
    expect(table).not_to_contain_text("moved by")
    assert [(s["before"], s["after"]) for s in build_of(page)["settings"]] == [(38, 35)]


def test_the_clock_of_a_step_is_kept_with_its_tick(page: Page) -> None:
    open_card(page)
    page.clock.install()
    page.get_by_role("button", name="One step at a time").click()
    hoist = page.get_by_role("dialog", name="One step at a time")
    page.keyboard.press("t")
    page.clock.run_for(90_000)
    expect(hoist.get_by_role("button", name="1:30")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Enter")
    expect(hoist).to_contain_text("1 done")
    sent(page)
    first, *_ = build_of(page)["ticks"]
    assert abs(first["minutes"] - 1.5) < 0.1
    page.keyboard.press("ArrowLeft")
    expect(hoist).to_contain_text("in 1.5 min")


def test_what_the_owner_is_told_stands_on_the_hand_over_sheet(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto(f"{JOB}/prove")
    page.get_by_label("What to watch").fill("Knocks over humps")
    day = page.get_by_label("Bolts checked again").locator("[data-segment='day']")
    day.click()
    page.keyboard.type("01062026")
    saved(page)
    told = page.request.get(f"/api{JOB}").json()["job"]["prove"]["hand_over"]
    assert told == {"watch": "Knocks over humps", "settled_on": None, "retorque_on": "2026-06-01"}, json.dumps(told)
    with page.expect_popup() as opened:
        page.get_by_role("button", name="Hand-over sheet").click()
    assert "hand-over.pdf" in opened.value.url or opened.value.url == "about:blank"


def test_a_click_of_the_wrench_goes_to_the_bolt_in_hand_and_a_pulled_plug_is_told(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    job = "/jobs/van-2026-washed-out-track"
    page.goto(f"{job}/build")
    expect(page.locator("[data-step='ready.heights']")).to_be_visible()
    steps = page.request.get(f"/api{job}/card").json()["steps"]
    at = next(n for n, s in enumerate(steps) if any(f["torque_nm"] and not f["angle_deg"] for f in s["fasteners"]))
    bolt = steps[at]["fasteners"][0]
    page.get_by_role("button", name="One step at a time").click()
    hoist = page.get_by_role("dialog", name="One step at a time")
    for _ in range(at):
        page.keyboard.press("ArrowRight")
    expect(hoist).to_contain_text(steps[at]["text"])
    hoist.get_by_role("button", name="Simulated wrench is ready").click()

    def click(torque: float) -> None:
        page.get_by_label("Clicks at, N·m").fill(str(torque))
        page.get_by_role("button", name="Click", exact=True).click()

    click(5)
    expect(hoist.get_by_role("alert")).to_contain_text("outside the range of this wrench")
    page.wait_for_timeout(2100)  # nearer it would be the same bolt pulled twice
    read = round(1.5 * min(bolt["torque_nm"], 130), 1)
    click(read)
    expect(hoist.get_by_label("Torque read").first).to_have_value(f"{read:g} Nm")
    expect(hoist).to_contain_text("is it the right bolt?")
    (record,) = page.request.get(f"/api{job}").json()["job"]["build"]["torques"]
    assert (record["fastener"], record["torque"]["value"]) == (bolt["key"], read)
    page.get_by_role("button", name="Pull its plug").click()
    expect(page.get_by_role("button", name="Wrench unplugged")).to_be_visible()
    page.get_by_role("button", name="Plug it in").click()
    expect(page.get_by_role("button", name="Simulated wrench is ready")).to_be_visible()


def test_what_is_found_on_two_wheels_is_kept_at_its_joint_and_marked_in_the_drawing(page: Page) -> None:
    """From the bike's hoist to the next job on it: the note with its photograph stands where the rod is opened."""
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/whin-2026-lower/build")
    page.get_by_role("button", name="One step at a time").click()
    hoist = page.get_by_role("dialog", name="One step at a time")
    expect(hoist).to_be_visible()
    for _ in range(20):
        if hoist.get_by_text("Rod off first").count():
            break
        page.keyboard.press("ArrowRight")
    marks = hoist.get_by_test_id("joint-mark")
    expect(marks).to_have_count(2)
    drawing = hoist.get_by_role("img", name="from the side, the place of this step marked").bounding_box()
    assert drawing is not None
    for mark in marks.all():
        at = mark.bounding_box()
        assert at is not None
        assert drawing["x"] < at["x"] < drawing["x"] + drawing["width"] - at["width"], (
            "the end that is worked on is shown"
        )
    page.keyboard.press("f")
    form = hoist.get_by_test_id("found-form")
    form.get_by_label("What was found").fill("Head behind the exhaust")
    form.get_by_label("Photograph: choose a file").set_input_files(
        {"name": "p.jpg", "mimeType": "image/jpeg", "buffer": photograph()}
    )
    expect(form.get_by_alt_text("Photograph 1")).to_be_visible()
    form.get_by_role("button", name="only note it").click()
    form.get_by_role("button", name="Keep it", exact=True).click()
    hoist.get_by_role("button", name="Keep it for whoever opens this next").click()
    kept = hoist.get_by_test_id("kept")
    expect(kept).to_contain_text("Kept at this joint. Head behind the exhaust")
    expect(kept.get_by_alt_text("Photograph 1: Head behind the exhaust")).to_be_visible()
    page.goto("/jobs/whin-2026-lower/build")
    expect(page.get_by_test_id("kept")).to_contain_text("Head behind the exhaust")


def test_the_order_of_rings_is_drawn_where_they_are_laid(page: Page) -> None:
    """15 mm of spacer between seat and isolator: five times as thick as 3 mm would be, the parts beside it cut."""
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/van-2026-washed-out-track/build")
    order = page.locator("[data-step^='rear.left']").get_by_test_id("laying-order")
    expect(order).to_have_count(1)
    names = order.get_by_role("listitem")
    expect(names).to_have_text(["seat", "spacer, chamfer to the seat, 15 mm", "isolator", "spring"])
    seat, ring, _, spring = (names.nth(n).bounding_box() for n in range(4))
    assert seat is not None
    assert ring is not None
    assert spring is not None
    assert spring["y"] < ring["y"] < seat["y"], "the first of them is at the bottom"
    drawn = names.nth(1).locator("span").first.bounding_box()
    assert drawn is not None
    assert drawn["height"] == pytest.approx(45, abs=1), "3 points a millimetre"


def test_what_was_ticked_before_the_plan_was_changed_is_not_counted_on_the_new_card(page: Page) -> None:
    open_card(page)
    who = {"x-acting-person": "Ines%20Tarrow"}
    steps = page.request.get(f"/api{JOB}/card").json()["steps"]
    work = next(s["id"] for s in steps if s["id"].endswith(".off"))
    for step in ("ready.heights", work):
        body = {"version": page.request.get(f"/api{JOB}").json()["versions"]["build"], "step": step, "done": True}
        assert page.request.post(f"/api{JOB}/build/tick", data=body | {"held": True}, headers=who).ok
    view = page.request.get(f"/api{JOB}").json()
    empty = {"kind": "car", "version": view["versions"]["plan"], "section": view["job"]["plan"] | {"changes": []}}
    assert page.request.put(f"/api{JOB}/plan", data=empty, headers=who).ok
    page.reload()
    left = page.request.get(f"/api{JOB}/card").json()["steps"]
    assert "ready.heights" in {s["id"] for s in left}
    assert work not in {s["id"] for s in left}
    page.get_by_role("button", name="One step at a time").click()
    expect(page.get_by_role("dialog", name="One step at a time")).to_contain_text(f"of {len(left)} · 1 done")


def test_no_step_is_wider_than_a_tablet_or_a_phone(page: Page) -> None:
    """A number that is cut off is read as another one."""
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    for job in ("pick-up-2026-leaf-packs", "saloon-2026-collar-kit"):
        page.goto(f"/jobs/{job}/build")
        page.get_by_role("button", name="One step at a time").click()
        hoist = page.get_by_role("dialog", name="One step at a time")
        count = len(page.request.get(f"/api/jobs/{job}/card").json()["steps"])
        for width, height in ((1024, 768), (390, 844)):
            page.set_viewport_size({"width": width, "height": height})
            for n in range(1, count + 1):
                expect(hoist).to_contain_text(f"step {n} of {count}")
                cut = hoist.evaluate(
                    "e => [e, ...e.querySelectorAll('*')].filter(p => !p.closest('svg')"
                    " && p.scrollWidth > p.clientWidth + 1 && p.clientWidth > 1).map(p => p.innerText)"
                )
                assert cut == [], f"{width} wide, step {n} of {job}"
                if n < count:
                    page.keyboard.press("ArrowRight")
            for _ in range(count - 1):
                page.keyboard.press("ArrowLeft")
        page.keyboard.press("Escape")
