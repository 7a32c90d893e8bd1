"""Parts on the screen: views, the slider over the travel, tape lines, pictures to choose by, drawings as files."""

import io
import re
import xml.etree.ElementTree as ET
from pathlib import Path

from PIL import Image, ImageDraw
from playwright.sync_api import Page, Route, expect

from tests.browser.drawn import box_of, intercepted
from tests.browser.test_walk import open_job


def test_an_axle_is_seen_from_every_side_and_moved_through_its_travel_by_keyboard(page: Page) -> None:
    open_job(page, "plan")
    drawing = page.get_by_role("group", name="View")
    for view, sight in (("side", "from the side"), ("behind", "from behind"), ("above", "from above")):
        drawing.get_by_role("button", name=view, exact=True).click()
        expect(page.get_by_role("img", name=f"front end {sight}")).to_be_visible()
    drawing.get_by_role("button", name="behind", exact=True).click()
    page.get_by_role("group", name="Axle that is drawn").get_by_role("button", name="rear").click()
    picture = page.get_by_role("img", name="rear end from behind")
    expect(picture.locator("circle, path").first).to_be_attached()
    slider = page.get_by_role("slider", name="Wheel travel of the rear end")
    expect(slider).to_have_attribute("aria-valuetext", "0 mm, where it rides")
    slider.focus()
    slider.press("End")
    expect(slider).to_have_attribute("aria-valuetext", re.compile(r"^\+\d+ mm, full bump$"))
    at_bump = picture.get_attribute("aria-label") or ""
    slider.press("Home")
    expect(slider).to_have_attribute("aria-valuetext", re.compile(r"^−\d+ mm, full droop$"))
    # What is told changes with the picture: squeezed at one end, hanging at the other.
    assert "damper can still close" in at_bump
    assert picture.get_attribute("aria-label") != at_bump
    page.get_by_role("button", name="where it rides").click()
    expect(slider).to_have_attribute("aria-valuetext", "0 mm, where it rides")


def test_a_drawing_is_saved_as_lines_that_need_nothing_else(page: Page, tmp_path: Path) -> None:
    open_job(page, "plan")
    with page.expect_download() as waited:
        page.get_by_role("group", name="Save the drawing").get_by_role("button", name="SVG").click()
    saved = tmp_path / "drawing.svg"
    waited.value.save_as(saved)
    root = ET.parse(saved).getroot()
    shapes = [e for e in root.iter() if e.tag.endswith(("path", "circle"))]
    assert len(shapes) > 60
    assert all("fill" in (e.get("style") or "") for e in shapes)
    assert "var(--" not in ET.tostring(root, encoding="unicode"), "no colour is left to a page that is not there"
    with page.expect_download() as waited:
        page.get_by_role("group", name="Save the drawing").get_by_role("button", name="PNG").click()
    saved = tmp_path / "drawing.png"
    waited.value.save_as(saved)
    assert saved.read_bytes().startswith(b"\x89PNG")
    assert saved.stat().st_size > 10_000


def test_the_tape_of_the_reading_in_hand_is_lit(page: Page) -> None:
    open_job(page, "measure")
    expect(page.locator("svg .tape.lit")).to_have_count(0)
    page.get_by_label("Stop gap, rear left").focus()
    lit = page.locator("svg .tape.lit")
    expect(lit).to_have_count(1)
    before = lit.get_attribute("d")
    page.get_by_label("Tyre radius, front right").focus()
    expect(lit).to_have_count(1)
    assert lit.get_attribute("d") != before
    expect(page.locator("svg .litText")).to_have_text("311")


def test_a_vehicle_is_set_up_by_what_it_looks_like_underneath(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/vehicles")
    page.get_by_role("button", name="Set up a vehicle").click()
    rear = page.get_by_role("group", name="Pictures, rear")
    leaf = rear.get_by_role("button", name="Leaf-sprung axle")
    expect(leaf).to_contain_text("two leaf packs")
    leaf.click()
    expect(leaf).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("combobox", name="Rear suspension")).to_have_value("leaf_axle")
    expect(leaf.locator("svg")).to_be_visible()
    assert leaf.locator("svg path, svg circle").count() > 20
    page.get_by_role("button", name="Two wheels").click()
    machines = page.get_by_role("group", name="Pictures, archetype")
    expect(machines.get_by_role("button")).to_have_count(8)


def test_nothing_moves_away_under_a_hand_when_the_pictures_come(page: Page) -> None:
    """Both rows have their room from the beginning: a button that is about to be pressed stays where it is."""
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    intercepted(page)
    held: list[Route] = []
    page.route("**/api/pictures", lambda route: held.append(route))
    page.goto("/vehicles")
    page.get_by_role("button", name="Set up a vehicle").click()
    form = page.get_by_role("dialog", name="Set up a vehicle")
    leaf = form.get_by_role("group", name="Pictures, rear").get_by_role("button", name="Leaf-sprung axle")
    expect(leaf).to_be_visible()
    page.wait_for_function("() => document.getAnimations().length === 0")
    places = [form.get_by_role("button", name="Two wheels"), form.get_by_role("button", name="Set it up"), leaf]
    before = [box_of(place) for place in places]
    assert sum('"car"' in (route.request.post_data or "") for route in held) == 2
    for route in held:
        route.continue_()
    expect(leaf.locator("svg")).to_be_visible()
    assert [box_of(place) for place in places] == before


def test_a_two_wheeler_is_moved_through_the_travel_of_either_end(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/whin-2026-lower/plan")
    page.get_by_role("group", name="Moved through its travel").get_by_role("button", name="fork moved").click()
    picture = page.get_by_role("img", name="front end from the side")
    expect(picture).to_be_visible()
    slider = page.get_by_role("slider", name="Wheel travel of the front end")
    slider.focus()
    slider.press("End")
    expect(picture).to_have_attribute("aria-label", re.compile("fork can still slide 0 mm"))
    page.get_by_role("group", name="Moved through its travel").get_by_role("button", name="rear moved").click()
    expect(page.get_by_role("img", name="rear end from the side")).to_have_attribute(
        "aria-label", re.compile("leverage")
    )
    page.get_by_role("group", name="Standing").get_by_role("button", name="rider on").click()
    expect(page.get_by_role("img", name=re.compile("Side elevation to scale"))).to_be_visible()


def test_ends_side_by_side_locks_and_what_comes_together(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/saloon-2026-collar-kit/align")
    page.get_by_role("group", name="Axle that is drawn").get_by_role("button", name="front").click()
    picture = page.get_by_role("img", name="front end from behind")
    # Each adjuster says at its place what the table beside it says.
    table = page.get_by_role("region", name="front left", exact=True)
    expect(picture.locator(".spot")).to_have_count(2)
    said = table.locator(".figure", has_text="as it is").or_(table.locator(".figure", has_text="turn")).first
    expect(picture.locator(".spot").first).to_contain_text(said.inner_text())
    page.get_by_role("button", name="both ends").click()
    near = picture.get_by_test_id("near")
    expect(near.filter(has_text="damper open")).to_have_count(2)
    expect(near.filter(has_text="stop squeezed")).to_have_count(2)
    page.get_by_role("group", name="View").get_by_role("button", name="above").click()
    page.get_by_role("button", name="straight ahead").or_(page.get_by_role("button", name="where it rides")).click()
    page.get_by_role("button", name="lock to lock").click()
    slider = page.get_by_role("slider", name="Turn of the wheels of the front end")
    expect(slider).to_have_attribute("aria-valuetext", "0.0°, straight ahead")
    slider.focus()
    slider.press("End")
    expect(slider).to_have_attribute("aria-valuetext", re.compile(r"^\+\d\d\.\d°, left lock$"))
    # The rear axle has no lock: it goes through its travel.
    page.get_by_role("group", name="Axle that is drawn").get_by_role("button", name="rear").click()
    expect(page.get_by_role("slider", name="Wheel travel of the rear end")).to_be_visible()
    expect(page.get_by_role("button", name="lock to lock")).to_have_count(0)


def test_what_was_read_after_stands_on_the_drawing_less_what_was_planned(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/van-2024-rear-sag/prove")
    marks = page.get_by_test_id("deviation")
    expect(marks).to_have_count(4)
    for at in ("front left", "front right", "rear left", "rear right"):
        side = at.split()[1]
        cell = page.get_by_role("row", name="Hub to arch").get_by_role("cell").filter(
            has=page.get_by_label(f"Hub to arch, {at}")
        )  # fmt: skip
        off = re.search(r"([−+]?\d+) of", cell.inner_text())
        assert off is not None
        expect(marks.filter(has_text=re.compile(rf"^{side} {re.escape(off[1])}$"))).not_to_have_count(0)


def test_a_day_is_typed_as_the_shop_writes_it(page: Page) -> None:
    open_job(page, "brief")
    field = page.get_by_role("group", name="Wanted by")
    first = field.get_by_role("spinbutton").first
    expect(first).to_have_attribute("aria-label", re.compile("day"))
    first.focus()
    page.keyboard.type("140120")
    expect(page.get_by_text("Type the year with all its four figures.")).to_be_visible()
    with page.expect_response(re.compile(r"/brief$")) as saved:
        page.keyboard.type("27")
    assert saved.value.ok
    page.goto("/")
    expect(page.get_by_text("due 14 Jan 2027")).to_be_visible()
    page.get_by_role("combobox", name="How days are written").select_option("year first")
    expect(page.get_by_text("due 2027 Jan 14")).to_be_visible()


def test_the_bench_draws_parts_where_its_points_are(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/vehicles/1")
    view = page.get_by_role("group", name=re.compile("Rear from behind"))
    expect(view.locator(".shape.leaf").first).to_be_attached()
    front = page.get_by_role("group", name=re.compile("Front from behind"))
    expect(front.locator(".shape.damper_body")).to_have_count(2)
    middle = box_of(front.locator(".shape.tyre").first)
    page.get_by_role("slider", name="Wheel travel").fill("60")
    expect(page.get_by_role("button", name="as it stands")).to_be_enabled()
    moved = box_of(front.locator(".shape.tyre").first)
    assert moved["y"] < middle["y"] - 10, "in bump the wheel goes up"


def side_photograph() -> bytes:
    """A made-up side view, front to the right: wheels at 0.75 and 0.25 of its width."""
    made = Image.new("RGB", (800, 400), "lightgrey")
    pen = ImageDraw.Draw(made)
    for x in (200, 600):
        pen.ellipse((x - 60, 230, x + 60, 350), fill="black")
    out = io.BytesIO()
    made.save(out, "PNG")
    return out.getvalue()


def test_a_photograph_lies_behind_the_drawing_on_its_wheels(page: Page, tmp_path: Path) -> None:
    file = tmp_path / "side.png"
    file.write_bytes(side_photograph())
    for job, name in (("saloon-2026-collar-kit", "car"), ("whin-2026-lower", "bike")):
        page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
        page.goto(f"/jobs/{job}/measure")
        page.get_by_role("button", name="Put a photograph behind the drawing").click()
        page.get_by_label("Photograph: choose a file").set_input_files(file)
        picture = page.get_by_role("button", name="The photograph: place the middle of the front wheel")
        expect(picture).to_be_visible()
        expect(picture.locator("img")).to_have_js_property("complete", True)
        box = picture.bounding_box()
        assert box
        keep = page.get_by_role("button", name="Lay it behind the drawing")
        expect(keep).to_be_disabled()
        for share in (0.75, 0.25):
            page.mouse.click(box["x"] + share * box["width"], box["y"] + 0.725 * box["height"])
        keep.click()
        behind = page.get_by_test_id("photograph")
        expect(behind).to_be_visible()
        expect(page.get_by_test_id("saved")).to_contain_text("Saved")
        drawing = page.request.post("/api/predict", data=page.request.get(f"/api/jobs/{job}").json()["job"]).json()[
            "drawing"
        ]
        placed = drawing["photograph"]
        wheels = [
            [placed["corner"][i] + u * (placed["right"][i] - placed["corner"][i])
             + 0.725 * (placed["down"][i] - placed["corner"][i]) for i in (0, 1)]
            for u in (0.75, 0.25)
        ]  # fmt: skip
        drawn = (
            [drawing["before"][end]["centre"] for end in ("front", "rear")]
            if name == "car"
            else [drawing["before_unladen"][f"{end}_axle"] for end in ("front", "rear")]
        )
        for at, centre in zip(wheels, drawn, strict=True):
            assert abs(at[0] - centre[0]) < 15, "within what a click is good to"
            assert abs(at[1] - centre[-1]) < 15
        page.get_by_role("button", name="photograph", exact=True).click()
        expect(behind).to_have_count(0)


def test_another_plan_of_the_vehicle_is_drawn_as_a_ghost(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.goto("/jobs/saloon-2026-collar-kit/plan")
    beside = page.get_by_label("Beside the plan of another job")
    beside.select_option(label="Doctor's saloon: it leans to the driver's side")
    expect(page.get_by_test_id("other-plan")).to_be_visible()
    expect(page.get_by_role("group", name="Side elevation to scale")).to_contain_text("it leans to the driver's side")
    beside.select_option(index=0)
    expect(page.get_by_test_id("other-plan")).to_have_count(0)
