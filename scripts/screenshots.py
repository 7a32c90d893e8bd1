"""Refresh docs/screenshots from the running application with fresh demo data: python scripts/screenshots.py [URL]."""

import re
import sys
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

HERE = Path(__file__).parents[1] / "docs" / "screenshots"
JOB = "/jobs/van-2026-washed-out-track"
DONE = "/jobs/van-2025-front-springs"
VIEWS = {
    "jobs": "/",
    "brief": f"{JOB}/brief",
    "measure": f"{JOB}/measure",
    "plan": f"{JOB}/plan",
    "align": f"{JOB}/align",
    "build": f"{JOB}/build",
    "hoist": f"{JOB}/build",
    "prove": f"{DONE}/prove",
    "plan-dark": f"{JOB}/plan",
    "vehicles": "/vehicles",
    "vehicle": "Veddic Halyard",
    "vehicle-leaf": "Gorrel Cask",
    "vehicle-dark": "Gorrel Beacon",
    "bike-bench": "Ostrel Ferryman",
    "bike-plan": "/jobs/whin-2026-lower/plan",
    "bike-measure": "/jobs/whin-2026-lower/measure",
    "bike-steer": "/jobs/whin-2026-lower/align",
    "bike-spring-dark": "/jobs/scree-2026-rider/plan",
    "part-bench": "/parts",
}
"""Picture → address, or the name of the vehicle on the list whose bench it shows."""


def settle(page: Page) -> None:
    """Wait until nothing more arrives, nothing is still being worked out, and parts are drawn where there are any."""
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(600)
    expect(page.locator("[aria-busy=true]")).to_have_count(0)


def main() -> None:
    """One PNG per view, 1280x800."""
    url = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8700"
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium",
            args=["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
        )
        for name, path in VIEWS.items():
            context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
            theme = "dark" if name.endswith("dark") else "light"
            context.add_init_script(f"localStorage.person = 'Ines Tarrow'; localStorage.theme = '{theme}'")
            page = context.new_page()
            page.goto(path if path.startswith("/") else "/vehicles")
            settle(page)
            if not path.startswith("/"):
                page.get_by_text(path).click()
                page.get_by_text(re.compile(r"^\d+ of \d+ read$")).wait_for()
                # Lines of the points stand at once, the parts they carry come with the first answer.
                page.locator("svg .shape.tyre").first.wait_for()
                settle(page)
            if name == "vehicle":
                page.get_by_label("Upper arm, front pivot above the floor", exact=True).focus()
            if name == "vehicle-leaf":
                page.get_by_role("button", name="rear", exact=True).click()
                page.get_by_label("Wheel travel", exact=True).fill("-50")
                settle(page)
            if name == "vehicle-dark":
                page.get_by_role("button", name="rear", exact=True).click()
                page.get_by_label("Over", exact=True).select_option("roll")
                settle(page)
            if name == "bike-bench":
                page.get_by_label("Travel of both ends").fill("9")
                settle(page)
            if name == "bike-measure":
                page.get_by_label("Rocker pivot to rod hole in the rocker", exact=True).focus()
                settle(page)
            if name == "hoist":
                page.get_by_role("button", name="One step at a time").click()
                step = page.get_by_role("dialog", name="One step at a time")
                while "Jack under the arm until" not in step.inner_text():
                    page.keyboard.press("ArrowRight")
                settle(page)
            if name == "part-bench":
                page.get_by_role("button", name="Tender and main").click()
                settle(page)
            if name == "plan-dark":
                page.get_by_role("button", name="behind", exact=True).click()
                settle(page)
            page.screenshot(path=HERE / f"{name}.png")
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
