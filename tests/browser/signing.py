"""Signing a job off on the screen, as somebody does who left steps of the card unticked."""

from playwright.sync_api import Page, expect


def sign_all_the_same(page: Page, why: str) -> None:
    """Press, read what is missing, say why it is signed all the same, press again."""
    page.get_by_role("button", name="Sign off as Ines Tarrow").click()
    missing = page.get_by_test_id("missing")
    expect(missing).to_contain_text("steps of the card are not ticked")
    missing.get_by_label("why it is signed all the same").fill(why)
    page.get_by_role("button", name="Sign off as Ines Tarrow").click()
    expect(page.get_by_test_id("signed")).to_be_visible()
    expect(page.get_by_text(why)).to_be_visible()
