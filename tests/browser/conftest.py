"""The application served for real, and a headless Chromium on it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Page, expect, sync_playwright
from sqlalchemy import Engine

from inclinum.api.app import create_app
from inclinum.api.wrench import Bench
from tests.serving import served

# A machine that is busy answers later, and no less right: how fast it is stands in benchmarks/, never in a test.
expect.set_options(timeout=30_000)

CLIENT = Path(__file__).parents[2] / "web" / "build"
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


@pytest.fixture(scope="module")
def browser() -> Iterator[Browser]:
    """One for a file of tests: its event loop must be gone before a worker goes on to files with loops of their own."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def address(engine: Engine) -> Iterator[str]:
    """The application on a free port with fresh demo data."""
    with served(create_app(engine, CLIENT, bench=Bench())) as here:
        yield here


@pytest.fixture
def page(browser: Browser, address: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A new visitor's page at 1280x800. Anything the console complains of fails the test.

    The browser says of every refusal, and of a server that is away, that a resource failed to load: a test that
    provokes that says so with the mark ``refused``, and sees whether the page tells it in its own words.
    """
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address, accept_downloads=True)
    page = context.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    provoked = request.node.get_closest_marker("refused") is not None

    def heard(line: ConsoleMessage) -> None:
        refusal = provoked and line.text.startswith("Failed to load resource")
        if line.type == "error" and not refusal:
            complaints.append(f"{line.text} {line.location.get('url', '')}")

    page.on("console", heard)
    yield page
    context.close()
    assert complaints == []
