"""Where something is on the screen, once the screen shows what was asked of it."""

from playwright.sync_api import FloatRect, Locator, Page, expect


def intercepted(page: Page) -> None:
    """Before the page is opened: what is sent just as holding requests up begins would slip past."""
    page.route("**/api/nothing", lambda route: route.continue_())


def worked_out(page: Page) -> None:
    """Wait until nothing on the screen is still being computed."""
    expect(page.locator("[aria-busy=true]")).to_have_count(0)


def box_of(drawn: Locator) -> FloatRect:
    """Where it is drawn, in pixels, when the last answer is in: saved is not yet drawn."""
    worked_out(drawn.page)
    box = drawn.bounding_box()
    assert box is not None
    return box


def centre(drawn: Locator) -> tuple[float, float]:
    """Its middle, in pixels."""
    box = box_of(drawn)
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
