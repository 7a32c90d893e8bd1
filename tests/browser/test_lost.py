"""The page when nobody answers, and other hands' leftovers: what was typed stays, and what is told is on the screen."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from sqlalchemy import Engine, text

from tests.browser.drawn import intercepted
from tests.browser.test_walk import JOB


def sit_down(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")


@pytest.mark.refused
def test_what_is_typed_while_nobody_answers_stays_over_a_reload_and_is_saved_then(page: Page) -> None:
    sit_down(page)
    page.goto(f"{JOB}/brief")
    field = page.get_by_label("What for", exact=True)
    expect(field).to_be_visible()
    page.route("**/api/jobs/**", lambda route: route.abort())
    field.fill("Typed while the server was away")
    field.blur()
    bar = page.get_by_test_id("unsaved")
    expect(bar).to_contain_text("Not saved yet: Brief.")
    expect(bar).to_contain_text("does not answer")
    expect(bar.get_by_role("button")).to_contain_text(re.compile(r"Try now, else in \d+ s"))
    page.unroute("**/api/jobs/**")
    page.on("dialog", lambda dialog: dialog.accept())
    page.reload()
    expect(page.get_by_label("What for", exact=True)).to_have_value("Typed while the server was away")
    expect(page.get_by_test_id("saved")).to_have_text("Saved")
    expect(page.get_by_test_id("unsaved")).to_have_count(0)
    assert page.evaluate("Object.keys(localStorage).filter((k) => k.startsWith('unsaved'))") == [], "tidied up"


def test_what_somebody_is_in_the_middle_of_typing_survives_a_reload_and_undo_with_it(page: Page) -> None:
    sit_down(page)
    page.on("dialog", lambda dialog: dialog.accept())
    page.goto(f"{JOB}/measure")
    before = page.get_by_label("Stop gap, rear left", exact=True).input_value()
    page.get_by_label("Stop gap, rear left", exact=True).fill("57")
    page.reload()
    expect(page.get_by_label("Stop gap, rear left", exact=True)).to_have_value("57")
    expect(page.get_by_test_id("saved")).to_have_text("Saved")
    page.locator("textarea").first.fill("Rust")
    page.reload()
    expect(page.locator("textarea").first).to_have_value(re.compile("Rust"))
    expect(page.get_by_test_id("saved")).to_have_text("Saved")
    page.reload()
    # Two steps back, over the reload: the note, then the reading.
    undo = page.get_by_role("button", name="Undo")
    expect(undo).to_be_enabled()
    undo.click()
    undo.click()
    expect(page.get_by_label("Stop gap, rear left", exact=True)).to_have_value(before)
    expect(page.get_by_test_id("saved")).to_have_text("Saved")


@pytest.mark.refused
def test_a_reading_that_nobody_could_read_is_not_told_as_saved_and_is_read_by_itself(page: Page) -> None:
    intercepted(page)
    sit_down(page)
    page.goto(f"{JOB}/measure")
    field = page.get_by_label("Stop gap, rear left", exact=True)
    expect(field).to_be_visible()
    page.route("**/api/entry", lambda route: route.abort())
    field.fill("53 ± 1.5")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Not read yet")
    expect(page.get_by_test_id("saved")).to_have_text("Not saved")
    page.unroute("**/api/entry")
    expect(page.get_by_test_id("saved")).to_have_text("Saved")
    expect(page.get_by_role("alert")).to_have_count(0)
    corners = page.request.get(f"/api{JOB}").json()["job"]["measure"]["corners"]
    assert "53 ± 1.5" in [c["reading"]["text"] for c in corners]


@pytest.mark.refused
def test_a_save_that_is_refused_says_so_on_the_screen(page: Page) -> None:
    sit_down(page)
    page.goto(f"{JOB}/brief")
    refusal = '{"sentence": "The database does not answer just now.", "complaints": []}'
    page.route(
        "**/api/jobs/*/brief",
        lambda route: (
            route.fulfill(status=503, body=refusal, content_type="application/json")
            if route.request.method == "PUT"
            else route.fallback()
        ),
    )
    field = page.get_by_label("What for", exact=True)
    field.fill("Kept through it")
    field.blur()
    expect(page.get_by_test_id("unsaved")).to_contain_text("The database does not answer just now.")
    page.unroute("**/api/jobs/*/brief")
    page.get_by_role("button", name="Try now").click()
    expect(page.get_by_test_id("saved")).to_have_text("Saved")


@pytest.mark.refused
def test_the_list_finds_a_job_and_marks_the_one_that_cannot_be_read(page: Page, engine: Engine) -> None:
    with engine.begin() as connection:
        connection.execute(
            text("update stage set document = document || '{\"purpose\": 7}' where name = 'brief' and job_id = :id"),
            {"id": JOB.rpartition("/")[2]},
        )
    sit_down(page)
    page.goto("/")
    jobs = page.get_by_role("list", name="Jobs")
    expect(jobs.get_by_text("Cannot be opened")).to_have_count(1)
    expect(jobs.get_by_text("brief.purpose")).to_be_visible()
    with page.expect_download() as stored:
        page.get_by_label("Copy out Post van: up for the washed-out track").click()
    assert '"purpose": 7' in Path(stored.value.path()).read_text()
    page.goto(f"{JOB}/plan")
    expect(page.get_by_role("alert")).to_contain_text("cannot be read")
    with page.expect_download() as stored:
        page.get_by_role("link", name="Download what is stored").click()
    assert '"purpose": 7' in Path(stored.value.path()).read_text()
    page.goto("/")
    page.get_by_label("Find by title").fill("post van front")
    expect(jobs.locator("li.panel")).to_have_count(1)
    page.get_by_label("Find by title").fill("no such thing")
    expect(page.get_by_text("No job has “no such thing” in it.")).to_be_visible()


def test_a_signature_is_withdrawn_with_a_reason_and_until_then_nothing_after_changes(page: Page) -> None:
    sit_down(page)
    page.goto("/jobs/van-2025-front-springs/prove")
    expect(page.get_by_test_id("signed")).to_be_visible()
    expect(page.locator("fieldset input").first).to_be_disabled()
    page.get_by_role("button", name="Withdraw the signature…").click()
    page.get_by_label("Why does it no longer hold?").fill("The tape had slipped")
    page.get_by_role("button", name="Withdraw the signature", exact=True).click()
    expect(page.get_by_role("button", name=re.compile("Sign off as"))).to_be_visible()
    expect(page.locator("fieldset input").first).to_be_enabled()
    page.get_by_test_id("saved").click()
    expect(page.get_by_text("The tape had slipped")).to_be_visible()


def test_a_deleted_job_lies_in_the_bin_and_comes_back_with_one_press(page: Page) -> None:
    sit_down(page)
    page.goto("/")
    page.get_by_label("Delete Post van: up for the washed-out track").click()
    page.get_by_role("dialog").get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_label("Delete Post van: up for the washed-out track")).to_have_count(0)
    page.get_by_role("link", name="Bin").click()
    page.get_by_role("button", name="Put back Post van: up for the washed-out track").click()
    page.get_by_role("link", name="Open it").click()
    expect(page.get_by_role("heading", name="Post van: up for the washed-out track")).to_be_visible()


@pytest.mark.refused
def test_a_vehicle_is_copied_out_deleted_and_brought_in_again(page: Page, tmp_path: Path) -> None:
    sit_down(page)
    page.goto("/vehicles")
    first = page.get_by_role("button", name=re.compile("^Delete Veddic")).first
    first.click()
    dialog = page.get_by_role("dialog", name="Delete this vehicle?")
    dialog.get_by_role("button", name="Delete", exact=True).click()
    expect(dialog.get_by_role("alert")).to_contain_text("would have no vehicle")
    with page.expect_download() as out:
        dialog.get_by_role("link", name="Copy out as a file").click()
    kept = tmp_path / "vehicle.json"
    kept.write_text(Path(out.value.path()).read_text().replace('"plate": "', '"plate": "X'))
    dialog.get_by_role("button", name="Keep it").click()
    text_of_it = kept.read_text()
    kept.write_text(re.sub(r'"vehicle_id": "[^"]*"', '"vehicle_id": null', text_of_it))
    page.get_by_label("Vehicle file").set_input_files(kept)
    expect(page.get_by_role("button", name="New job on it")).to_be_visible()
