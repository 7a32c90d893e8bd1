"""Parts on the screen: views, the slider over the travel, tape lines, pictures to choose by, drawings as files."""

import re
import xml.etree.ElementTree as ET
from pathlib import Path

from playwright.sync_api import Page, expect

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
    assert leaf.locator("svg path, svg circle").count() > 20
    page.get_by_role("button", name="Two wheels").click()
    machines = page.get_by_role("group", name="Pictures, archetype")
    expect(machines.get_by_role("button")).to_have_count(8)


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
