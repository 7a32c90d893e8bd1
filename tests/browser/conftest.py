"""The application served for real, and a headless Chromium on it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, sync_playwright
from sqlalchemy import Engine

from inclinum.api.app import create_app
from tests.serving import served

CLIENT = Path(__file__).parents[2] / "web" / "build"
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def address(engine: Engine) -> Iterator[str]:
    """The application on a free port with fresh demo data."""
    with served(create_app(engine, CLIENT)) as here:
        yield here


@pytest.fixture
def page(browser: Browser, address: str) -> Iterator[Page]:
    """A new visitor's page at 1280x800. Anything the console complains of fails the test."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address, accept_downloads=True)
    page = context.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    # The browser says of every refusal that a resource failed to load; the page says it in its own words.
    page.on(
        "console",
        lambda line: (
            complaints.append(line.text)
            if line.type == "error" and not line.text.startswith("Failed to load resource")
            else None
        ),
    )
    yield page
    context.close()
    assert complaints == []
