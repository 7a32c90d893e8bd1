"""The bench under other hands: keyboard only, other sizes, themes and units."""

import re

import pytest
from playwright.sync_api import Browser, Page, Route, expect

from tests.browser.adding import add_change
from tests.browser.drawn import box_of, intercepted
from tests.browser.test_walk import JOB, open_job, saved


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (1024, 768)])
@pytest.mark.parametrize(
    "stage", ["brief", "measure", "plan", "align", "build", "prove", "a vehicle", "two wheels", "a bike"]
)
def test_nothing_scrolls_sideways_or_lies_over_anything(
    browser: Browser, address: str, width: int, height: int, stage: str
) -> None:
    context = browser.new_context(viewport={"width": width, "height": height}, base_url=address)
    page = context.new_page()
    if stage == "a vehicle":
        page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
        page.goto("/vehicles")
        page.get_by_text("Oriel Ledger").click()
        expect(page.get_by_test_id("consequences")).to_be_visible()
    elif stage in ("two wheels", "a bike"):
        page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
        page.goto("/jobs/whin-2026-lower/measure" if stage == "two wheels" else "/vehicles")
        if stage == "a bike":
            page.get_by_text("Ostrel Ferryman").click()
        expect(page.get_by_text("Leverage is known to")).to_be_visible()
    else:
        open_job(page, stage)
    page.wait_for_load_state("networkidle")
    size = page.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]")
    assert size == [width, height]
    boxes = [p.bounding_box() for p in page.locator("main .panel").all()]
    # Drawing, numbers and stage; findings and curves belong to the plan, elsewhere one line tells how it stands.
    assert len(boxes) >= (5 if stage in ("plan", "a vehicle", "a bike") else 4)
    for i, a in enumerate(boxes):
        for b in boxes[i + 1 :]:
            assert a
            assert b
            apart = (
                a["x"] + a["width"] <= b["x"] + 1
                or b["x"] + b["width"] <= a["x"] + 1
                or a["y"] + a["height"] <= b["y"] + 1
                or b["y"] + b["height"] <= a["y"] + 1
            )
            assert apart, f"two panels overlap at {a} and {b}"
    context.close()


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_words_stand_out_from_their_ground(page: Page, theme: str) -> None:
    """Contrast of every colour of words on every ground is at least 4.5:1 (WCAG 2.2 AA)."""
    page.add_init_script(f"localStorage.setItem('theme', '{theme}')")
    open_job(page, "plan")
    tokens = page.evaluate(
        "() => Object.fromEntries(['bench','chalk','raised','ink','quiet','dye','on-dye','stops','fix','good','wash']"
        ".map(t => [t, getComputedStyle(document.documentElement).getPropertyValue('--' + t).trim()]))"
    )

    def light(colour: str) -> float:
        if len(colour) == 4:
            colour = "#" + "".join(2 * c for c in colour[1:])
        parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        linear = [p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    def contrast(a: str, b: str) -> float:
        high, low = sorted((light(tokens[a]), light(tokens[b])), reverse=True)
        return (high + 0.05) / (low + 0.05)

    for ground in ("chalk", "raised"):
        for word in ("ink", "quiet", "dye", "stops", "fix", "good"):
            assert contrast(word, ground) >= 4.5, f"{word} on {ground}"
    assert contrast("quiet", "bench") >= 4.5
    assert contrast("on-dye", "dye") >= 4.5
    assert contrast("dye", "wash") >= 4.5
    assert page.evaluate("document.documentElement.dataset.theme") == theme


@pytest.mark.parametrize("stage", ["brief", "measure", "plan", "align", "build", "prove"])
def test_everything_that_can_be_pressed_or_filled_has_a_name(page: Page, stage: str) -> None:
    open_job(page, stage)
    page.wait_for_load_state("networkidle")
    nameless = page.evaluate(
        """() => [...document.querySelectorAll('button, input, select, textarea, a, [role=slider]')]
        .filter(e => e.type !== 'file' && e.offsetParent !== null)
        .filter(e => !(e.getAttribute('aria-label') || e.title || e.textContent.trim()
                       || e.closest('label') || e.labels?.length))
        .map(e => e.outerHTML.slice(0, 120))"""
    )
    assert nameless == []


def test_a_change_is_planned_without_a_mouse(page: Page) -> None:
    open_job(page, "brief")
    page.keyboard.press("3")
    expect(page).to_have_url(re.compile("/plan$"))
    page.keyboard.press("/")
    expect(page.get_by_placeholder("spacer, card, inches…")).to_be_focused()
    page.keyboard.type("seat spacer, front")
    page.keyboard.press("Enter")
    expect(page.locator("[data-change='c3']")).to_contain_text("Spring-seat spacer, front")
    slider = page.get_by_role("slider", name="Thickness, Spring-seat spacer, front")
    slider.focus()
    before = page.get_by_test_id("rise-front").inner_text()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_test_id("rise-front")).not_to_have_text(before)
    saved(page)
    plan = page.request.get("/api" + JOB).json()["job"]["plan"]
    assert plan["changes"][-1]["change"]["thickness_mm"] == 13


def test_ways_to_a_height_wait_until_the_slider_is_let_go(page: Page) -> None:
    open_job(page, "plan")
    slider = page.get_by_role("slider", name="Thickness, Spring-seat spacer, rear")
    box = box_of(slider)
    rear = page.locator("[data-finding='aim.rear']")
    waiting, ways = rear.get_by_text("once you let go"), rear.get_by_role("button")
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + 0.3 * box["width"], middle)
    page.mouse.down()
    for share in (0.4, 0.5, 0.6):
        page.mouse.move(box["x"] + share * box["width"], middle)
        page.wait_for_timeout(100)
    expect(waiting).to_have_count(1)
    expect(ways).to_have_count(0)
    page.mouse.up()
    expect(waiting).to_have_count(0)
    expect(ways.first).to_be_visible()


def test_what_an_answer_offers_cannot_undo_what_was_typed_since(page: Page) -> None:
    """A way to a height holds the whole plan it was found for: it waits while there is another plan."""
    intercepted(page)
    open_job(page, "plan")
    way = page.locator("[data-finding='aim.front']").get_by_role("button", name=re.compile("^Front springs"))
    expect(way).to_be_enabled()
    waiting: list[Route] = []
    page.route("**/api/predict**", lambda route: waiting.append(route))
    thickness = page.get_by_label("Thickness, Spring-seat spacer, rear", exact=True).first
    thickness.fill("18")
    thickness.press("Enter")
    expect(way).to_be_disabled()
    for one in waiting:
        one.continue_()
    page.unroute("**/api/predict**")
    way.click()
    saved(page)
    springs, ring = [p["change"] for p in page.request.get("/api" + JOB).json()["job"]["plan"]["changes"]]
    assert springs["coil"]["free_length_mm"] != 378, "the way was taken"
    assert ring["thickness_mm"] == 18, "and what was typed stands"


@pytest.mark.refused
def test_a_plan_that_is_refused_is_not_offered_the_ways_of_the_one_before(page: Page) -> None:
    open_job(page, "plan")
    way = page.locator("[data-finding='aim.front']").get_by_role("button", name=re.compile("^Front springs"))
    expect(way).to_be_enabled()
    length = page.get_by_label("Free length, Springs, front", exact=True)
    length.fill("100")
    length.press("Enter")
    expect(page.get_by_role("alert").first).to_be_visible()
    expect(way).to_be_disabled()
    expect(length).to_have_value("100")
    page.get_by_role("button", name="Undo").click()
    expect(way).to_be_enabled()


def test_the_order_of_the_stack_is_changed_and_kept(page: Page) -> None:
    open_job(page, "plan")
    first = page.locator("[data-change]").first
    expect(first).to_contain_text("Springs, front")
    first.get_by_label("Move down").click()
    expect(page.locator("[data-change]").first).to_contain_text("Spring-seat spacer, rear")
    saved(page)
    page.reload()
    expect(page.locator("[data-change]").first).to_contain_text("Spring-seat spacer, rear")
    page.get_by_label("Take Spring-seat spacer, rear, off the plan").click()
    expect(page.locator("[data-change]")).to_have_count(1)


def test_inches_are_typed_and_read_all_the_way(page: Page) -> None:
    page.add_init_script("localStorage.setItem('units', 'in')")
    open_job(page, "plan")
    expect(page.get_by_test_id("rise-rear")).to_contain_text("+0.81 in")
    field = page.get_by_label("Thickness, Spring-seat spacer, rear").last
    expect(field).to_have_value("0.59")
    field.fill("3/4")
    field.press("Enter")
    expect(field).to_have_value("0.75")
    saved(page)
    changes = page.request.get("/api" + JOB).json()["job"]["plan"]["changes"]
    assert changes[1]["change"]["thickness_mm"] == pytest.approx(19.05)


def test_a_parameter_out_of_range_is_refused_beside_its_field(page: Page) -> None:
    open_job(page, "plan")
    field = page.get_by_label("Thickness, Spring-seat spacer, rear").last
    field.fill("300")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("at most 80 mm")
    expect(page.get_by_test_id("rise-rear")).to_contain_text("+20")
    field.press("Escape")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_chosen_setting_moves_the_angle_and_can_be_given_back(page: Page) -> None:
    open_job(page, "align")
    wheel = page.get_by_role("region", name="front left")
    expect(wheel).to_contain_text("0.4 mm in")
    for _ in range(3):
        wheel.get_by_label("More, slotted strut clamp front left").click()
    expect(wheel).to_contain_text("0.1 mm in")
    wheel.get_by_role("button", name="solved").click()
    expect(wheel).to_contain_text("0.4 mm in")


@pytest.mark.refused
def test_a_stopped_plan_is_built_only_on_a_written_word(page: Page) -> None:
    open_job(page, "plan")
    add_change(page, "Strut-top spacer", "Front")
    field = page.get_by_label("Thickness, Strut-top spacer, front").last
    field.fill("18")
    field.press("Enter")
    expect(page.get_by_text("Stopped: not to be built like this")).to_be_visible()
    page.keyboard.press("5")
    page.get_by_role("link", name="Build").click()
    page.locator("[data-step='ready.heights'] input[type=checkbox]").click()
    refused = page.get_by_test_id("refused")
    expect(refused).to_contain_text("The plan is stopped")
    expect(page.locator("[data-step='ready.heights'] input[type=checkbox]")).not_to_be_checked()
    refused.get_by_role("button", name="I have read it").click()
    page.get_by_role("link", name="Plan").click()
    page.get_by_label("Built all the same?").fill("Nuts of another height, inspected by the council, paper 12")
    page.get_by_role("region", name="Stage").click(position={"x": 5, "y": 5})
    expect(page.get_by_text("Built on a written override")).to_be_visible()
    saved(page)


def test_the_history_tells_who_changed_what(page: Page) -> None:
    open_job(page, "brief")
    page.get_by_label("On board when heights are taken").fill("empty")
    page.get_by_label("What for").click()
    saved(page)
    page.get_by_test_id("saved").click()
    history = page.get_by_role("dialog", name="History of this job")
    expect(history).to_contain_text("Ines Tarrow")
    expect(history).to_contain_text("→ empty")


def test_a_new_job_is_opened_on_a_known_vehicle(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/")
    page.get_by_role("button", name="New job").click()
    page.get_by_label("What is it about?").fill("Lower for the tunnel")
    page.get_by_role("dialog").get_by_role("combobox").select_option(label="Veddic Pannier, post van Q-0417")
    page.get_by_role("button", name="Open it").click()
    expect(page.get_by_role("heading", name="Lower for the tunnel")).to_be_visible()
    expect(page.get_by_test_id("rise-front")).to_have_text(re.compile("^0"))
    aim = page.get_by_label("Aim, front", exact=True)
    aim.fill("-1 1/4")
    aim.press("Enter")
    expect(page.locator("[data-finding='aim.front']")).to_contain_text("32 mm too high")
