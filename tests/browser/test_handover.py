"""Handover: the owner's sheet by phone, in two languages, and on paper."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.serving import LIGHTS, open_variant, serious


def to_handover(page: Page) -> None:
    open_variant(page, "Marsh Wren", "As found")
    page.goto(page.url.replace("/scheme", "/handover"))
    page.get_by_role("region", name="Owner's sheet").wait_for(timeout=60_000)


def test_the_sheet_in_the_boats_own_words_to_paper(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    to_handover(page)
    sheet = page.get_by_role("region", name="Owner's sheet")
    anchor = sheet.get_by_role("article").filter(has_text="At anchor, engine stopped")
    expect(anchor.get_by_text("Main selector")).to_be_visible()
    never = sheet.get_by_role("region", name="Never")
    expect(never.get_by_text(re.compile("while the engine runs")).first).to_be_visible()
    for light in LIGHTS:
        page.evaluate(f"localStorage.setItem('strom.light', '{light}')")
        page.reload()
        sheet.wait_for(timeout=60_000)
        assert serious(page) == [], light
    page.get_by_label("Language").select_option("Deutsch")
    expect(sheet.get_by_role("heading", name="Wie die Schalter stehen")).to_be_visible()
    with page.expect_download(timeout=120_000) as kept:
        page.get_by_role("button", name="A5").click()
    assert kept.value.path().read_bytes()[:5] == b"%PDF-"


def test_a_handling_that_does_not_fit_says_why(page: Page) -> None:
    to_handover(page)
    page.get_by_label("Handled").select_option("On all day")
    expect(page.get_by_text(re.compile("This handling does not fit"))).to_be_visible(timeout=60_000)
