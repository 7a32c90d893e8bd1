"""What a screen reader and a keyboard meet: axe over every page, in light and dark, with no violation."""

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.browser.test_walk import JOB

BIKE = "/jobs/whin-2026-lower"
PAGES = {
    "jobs": ("/", "Jobs"),
    "vehicles": ("/vehicles", "Oriel Ledger"),
    "a vehicle": ("vehicle", ""),
    "a machine": ("machine", ""),
    **{f"job, {s}": (f"{JOB}/{s}", "") for s in ("brief", "measure", "plan", "align", "build", "prove")},
    **{f"bike, {s}": (f"{BIKE}/{s}", "") for s in ("brief", "measure", "plan", "align", "build", "prove")},
}


def opened(page: Page, where: str) -> None:
    """A page with everything on it that it shows at first."""
    address, _ = PAGES[where]
    page.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
    if address in ("vehicle", "machine"):
        page.goto("/vehicles")
        page.get_by_text("Oriel Ledger" if address == "vehicle" else "Ostrel Ferryman").click()
        page.wait_for_url("**/vehicles/*")
    else:
        page.goto(address)
    page.wait_for_load_state("networkidle")
    expect(page.locator("main")).to_be_visible()


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("where", list(PAGES))
def test_no_page_shuts_anybody_out(page: Page, where: str, theme: str) -> None:
    page.add_init_script(f"localStorage.setItem('theme', '{theme}')")
    opened(page, where)
    found = Axe().run(page)
    assert found.violations_count == 0, found.generate_report()


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_dialogs_and_the_hoist_shut_nobody_out(page: Page, theme: str) -> None:
    page.add_init_script(f"localStorage.setItem('theme', '{theme}')")
    opened(page, "job, build")
    page.get_by_role("button", name="One step at a time").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    found = Axe().run(page)
    assert found.violations_count == 0, found.generate_report()
