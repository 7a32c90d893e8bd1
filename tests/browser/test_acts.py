"""Ticks, torques and settings from a hurried hand: what the screen showed as done is there, whatever happens next."""

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.test_walk import saved

JOB = "/jobs/saloon-2026-collar-kit"


def open_card(page: Page) -> None:
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    page.on("dialog", lambda dialog: dialog.accept())
    page.goto(f"{JOB}/build")
    expect(page.locator("[data-step='ready.heights']")).to_be_visible()


def done(page: Page) -> list[str]:
    return [t["step"] for t in page.request.get(f"/api{JOB}").json()["job"]["build"]["ticks"]]


TICK_ALL = """(most) => {
    const boxes = [...document.querySelectorAll('li[data-step] > label input[type=checkbox]')]
    const some = boxes.filter((b) => !b.disabled).slice(0, most)
    for (const box of some) box.click()
    return some.map((b) => b.closest('li').dataset.step)
}"""


@pytest.mark.refused
def test_every_tick_of_a_hurried_hand_survives_a_reload_in_the_next_moment(page: Page) -> None:
    open_card(page)
    ticked = page.evaluate(TICK_ALL, 60)
    assert len(ticked) > 30
    expect(page.get_by_test_id("saved")).not_to_have_text("Saved")
    page.reload()
    expect(page.locator("[data-step='ready.heights'] > label input")).to_be_checked()
    saved(page)
    assert sorted(done(page)) == sorted(ticked)


@pytest.mark.refused
def test_one_tick_and_a_reload_with_no_network_and_another_tab_sends_it(page: Page) -> None:
    open_card(page)
    page.context.route("**/build/acts", lambda route: route.abort())
    box = page.locator("[data-step='ready.heights'] > label input")
    box.click()
    expect(box).to_be_checked()
    expect(page.get_by_test_id("unsaved")).to_contain_text("Not saved yet: 1 entry of the card")
    page.close(run_before_unload=False)
    context = page.context
    context.unroute("**/build/acts")
    other = context.new_page()
    # Any page of the application sends what waits.
    other.goto("/")
    expect(other.get_by_role("list", name="Jobs")).to_be_visible()
    for _ in range(100):
        if done(other):
            break
        other.wait_for_timeout(100)
    assert done(other) == ["ready.heights"]


def test_two_tabs_on_one_card_lose_nothing_and_see_each_other(page: Page) -> None:
    open_card(page)
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.locator("[data-step='ready.heights']")).to_be_visible()
    ticked = page.evaluate(TICK_ALL, 8)
    expect(other.locator(f"[data-step='{ticked[-1]}'] > label input")).to_be_checked()
    more = [s for s in other.evaluate(TICK_ALL, 12) if s not in ticked]
    # The first eight were ticked already: pressed again they are taken back.
    saved(other)
    saved(page)
    assert sorted(done(page)) == sorted(more)


def sent(route: Route) -> list[dict]:
    return (route.request.post_data_json or {})["acts"]


@pytest.mark.refused
def test_what_the_server_refuses_is_told_and_leaves_the_card(page: Page) -> None:
    open_card(page)
    page.route(
        "**/build/acts",
        lambda route: route.fulfill(
            status=200,
            json={
                "version": 1,
                "build": {"ticks": [], "torques": [], "found": [], "settings": [], "note": ""},
                "refused": [{"id": act["id"], "sentence": "The plan was changed."} for act in sent(route)],
            },
        ),
    )  # fmt: skip
    box = page.locator("[data-step='ready.heights'] > label input")
    box.click()
    bar = page.get_by_test_id("refused")
    expect(bar).to_contain_text("The plan was changed.")
    expect(box).not_to_be_checked()
    expect(page.get_by_test_id("saved")).to_have_text("Not saved")
    bar.get_by_role("button", name="I have read it").click()
    expect(bar).to_have_count(0)
    expect(page.get_by_test_id("saved")).to_have_text("Saved")
