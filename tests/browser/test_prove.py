"""Prove by phone, with the simulated meter on the demo's half-built boat."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.serving import open_variant, serious


def to_prove(page: Page) -> None:
    open_variant(page, "Marsh Wren", "Proposal C")
    page.goto(page.url.replace("/scheme", "/prove"))
    page.get_by_text(re.compile("Test 1 of")).wait_for()


def test_readings_looks_and_two_hidden_faults_by_phone(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    to_prove(page)
    test = page.get_by_role("article", name="Test")
    parts = page.get_by_role("navigation", name="Parts of Prove")

    def open_test(title: str) -> None:
        parts.get_by_role("button", name="All tests").click()
        page.get_by_role("button", name=re.compile(title)).first.click()
        expect(test.get_by_role("heading", level=2)).to_have_text(re.compile(title))

    # A look goes on by itself, and what became of it stays on the screen.
    first = test.get_by_role("heading", level=2).inner_text()
    test.get_by_role("button", name="As it should be").click()
    expect(test.get_by_role("status").first).to_contain_text(f"as it should be: {first}")
    # A reading by thumb: what is well goes on too.
    open_test("House bank at rest")
    for key in "12.45":
        test.get_by_role("button", name=key, exact=True).click()
    expect(test.get_by_label("Reading typed")).to_contain_text("12.45 V")
    test.get_by_role("button", name="Enter V").click()
    expect(test.get_by_role("status").first).to_contain_text("within: House bank at rest")
    # The two hidden faults of the meter's boat: a relay that stays open, a bad negative.
    open_test("Volts across Combining relay")
    test.get_by_role("button", name="Take it from the meter").click()
    expect(test.get_by_text("▲ outside")).to_be_visible()
    expect(test.get_by_text("it has not closed")).to_be_visible()
    open_test("Drop in minus while cranking")
    test.get_by_role("button", name="Take it from the meter").click()
    expect(test.get_by_text("▲ outside")).to_be_visible()
    expect(page.get_by_text("2 not as they should be")).to_be_visible()
    # Impossible readings are said at once, and kept.
    for key in ("1", "2", "5", "0"):
        test.get_by_role("button", name=key, exact=True).click()
    test.get_by_role("button", name="Enter V").click()
    expect(test.get_by_text("was it millivolts")).to_be_visible()
    test.get_by_text(re.compile("Note, waive, history")).click()
    test.get_by_label("Note, or why it is waived").fill("Lug at the block crimped anew.")
    test.get_by_role("button", name="Waive the test").click()
    expect(test.get_by_role("status").first).to_contain_text("waived: Drop in minus")
    page.reload()
    expect(page.get_by_text(re.compile("4 of \\d+"))).to_be_visible()
    assert serious(page) == []
    # From one miss to its cause: the next best reading is asked for until it is found.
    parts.get_by_role("button", name="Find the fault").click()
    fault = page.get_by_role("region", name="Find the fault")
    expect(fault.get_by_text("Read next")).to_be_visible(timeout=90_000)
    fault.get_by_role("button", name="Take it from the meter").click()
    expect(fault.get_by_role("heading", name="Readings: 4")).to_be_visible(timeout=90_000)
    fault.get_by_text(re.compile("What speaks for and against")).first.click()
    expect(fault.get_by_text(re.compile("Would give .* you read")).first).to_be_visible()
    assert serious(page) == []
    parts.get_by_role("button", name="Record").click()
    page.get_by_label("Proved by").fill("A. Wright")
    with page.expect_download(timeout=120_000) as kept:
        page.get_by_role("button", name="Record, PDF A4").click()
    assert kept.value.path().read_bytes()[:5] == b"%PDF-"
    assert serious(page) == []
