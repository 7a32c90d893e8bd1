"""A change put on the stack, as a person does it."""

from playwright.sync_api import Page, expect


def add_change(page: Page, title: str, axle: str | None = None, called: str | None = None) -> None:
    """Add a change by its title, on an axle where there are two, found by what people call it."""
    page.get_by_role("button", name="Add a change").click()
    sheet = page.get_by_role("dialog", name="Add a change")
    if axle:
        sheet.get_by_role("button", name=axle.lower(), exact=True).click()
    if called:
        sheet.get_by_placeholder("name it as you know it").fill(called)
    sheet.get_by_role("option").filter(has=page.get_by_text(title, exact=True)).click()
    expect(sheet).to_have_count(0)
