"""Journeys of rewiring: a pattern becomes a proposal; move, swap, park, undo; compare; print."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import LIGHTS, Server, open_variant, serious


def to_patterns(page: Page) -> None:
    page.get_by_role("link", name="Patterns").click()
    page.get_by_role("list", name="Patterns, the best first").wait_for()


def test_from_a_pattern_to_a_proposal(page: Page) -> None:
    open_variant(page, "Pilot 3", "As found")
    to_patterns(page)
    ranked = page.get_by_role("list", name="Patterns, the best first").get_by_role("button")
    assert ranked.count() >= 8
    picked = page.get_by_role("region", name="The pattern picked")
    expect(picked.get_by_role("heading", name="For it")).to_be_visible()
    expect(picked.get_by_role("heading", name="Against it")).to_be_visible()
    expect(picked).to_contain_text("confirm in the edition in force")
    ranked.filter(has_text="Dual-circuit switch with a relay").click()
    expect(picked).to_contain_text("What it changes here")
    expect(picked).to_contain_text(re.compile(r"New: parts \(\d+\)"))
    # A school changes the order, and says so.
    before = ranked.first.inner_text()
    page.get_by_role("radiogroup", name="Charged first").get_by_text("Engine").click()
    expect(ranked.first).not_to_have_text(before)
    ranked.filter(has_text="Dual-circuit switch with a relay").click()
    picked.get_by_role("button", name="Make it a new proposal").click()
    page.locator('[data-part="relay_1"]').wait_for()
    expect(page.get_by_role("navigation", name="Variants")).to_contain_text("Dual-circuit switch")
    page.get_by_role("button", name="Start engine").click()
    expect(page.get_by_label("This moment")).to_contain_text("into banks")


def test_rewiring_in_place_is_one_step_back(page: Page) -> None:
    open_variant(page, "Pilot 3", "Relay turned round")
    to_patterns(page)
    page.get_by_role("button", name=re.compile("^[0-9]+ ?Transistor isolator")).click()
    page.get_by_role("button", name=re.compile("^Rewire")).click()
    page.locator('[data-part="isolator_1"]').wait_for()
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    page.keyboard.press("u")
    page.locator('[data-part="selector"]').wait_for()
    expect(page.locator('[data-part="isolator_1"]')).to_have_count(0)


def test_put_in_swap_park_land_and_undo(page: Page, server: Server) -> None:
    open_variant(page, "Pilot 3", "Relay turned round")
    sheet = page.get_by_label("Picked")
    page.locator('[data-cable="house_panel"]').press("Enter")
    sheet.get_by_role("button", name="Put a part in").click()
    page.get_by_role("list", name="Parts to put in").get_by_text("Breaker").click()
    page.locator('[data-part="breaker_1"]').wait_for()
    # By keyboard: swap the relay for a dc-dc charger.
    page.locator('[data-part="relay"] .touch').press("Enter")
    sheet.get_by_role("button", name="Swap it for another kind").press("Enter")
    kinds = page.get_by_role("list", name="Kinds to swap for")
    kinds.locator(".v-list-item", has_text="dc-dc charger").press("Enter")
    page.locator('[data-part="dcdc_1"]').wait_for()
    expect(page.get_by_label("Parked cables")).to_have_count(0)  # all three found their post
    # A selector made a fuse of a switch would leave two cables hanging: park one by hand.
    page.locator('[data-cable="house_panel"]').press("Enter")
    sheet.get_by_role("button", name="Park the end at House battery +").click()
    parked = page.get_by_label("Parked cables")
    expect(parked).to_contain_text("hangs to Breaker 1 a")
    parked.get_by_role("button", name="Land it").click()
    page.locator('[data-post="selector.common"]').click()
    expect(parked).to_have_count(0)
    page.locator('[data-cable="house_panel"]').press("Enter")
    expect(sheet).to_contain_text("Selector common to Breaker 1 a")
    for _ in range(4):
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
        page.keyboard.press("u")
        page.wait_for_timeout(400)
    page.locator('[data-part="relay"]').wait_for()
    expect(page.locator('[data-part="breaker_1"]')).to_have_count(0)


def test_add_a_part_and_run_a_cable(page: Page) -> None:
    open_variant(page, "Pilot 3", "Relay turned round")
    page.get_by_role("button", name="Add", exact=True).click()
    dialog = page.get_by_role("dialog", name="Add a part")
    dialog.get_by_role("button", name="Put in a one-way combiner").click()
    dialog.get_by_role("button", name="Done").click()
    page.locator('[data-part="one_way_1"]').wait_for()
    page.locator('[data-part="house_bank"] .touch').press("Enter")
    sheet = page.get_by_label("Picked")
    sheet.get_by_role("button", name="Run a cable from House battery +").click()
    expect(sheet).to_contain_text("Pick the post for the new cable")
    page.locator('[data-post="selector.common"]').click()
    page.locator('[data-cable="new_cable"]').press("Enter")
    expect(sheet).to_contain_text("House battery + to Selector common")
    expect(sheet).to_contain_text("length estimated")
    for _ in range(2):
        page.keyboard.press("u")
        page.wait_for_timeout(600)
    expect(page.locator('[data-part="one_way_1"]')).to_have_count(0)


def test_the_stack_on_a_post(page: Page) -> None:
    open_variant(page, "Pilot 3", "Relay turned round")
    page.locator('[data-part="house_bank"] .touch').press("Enter")
    stack = page.get_by_role("list", name="On House battery +, seat first")
    lugs = stack.get_by_role("listitem")
    first = lugs.first.inner_text()
    lugs.first.get_by_role("button", name=re.compile("^Further from the seat")).click()
    expect(lugs.first).not_to_have_text(first)
    page.keyboard.press("u")
    expect(lugs.first).to_have_text(first)


def test_compare_two_variants(page: Page) -> None:
    open_variant(page, "Marsh Wren", "As found")
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_role("figure")).to_have_count(2)
    expect(page.locator(".difference.gone").first).to_be_visible()
    expect(page.locator(".difference.new").first).to_be_visible()
    lost = page.get_by_role("region", name="Findings lost")
    expect(lost).to_contain_text("SW-4")
    table = page.get_by_role("table")
    row = table.get_by_role("row", name="Switches that can cut the running alternator off")
    expect(row.get_by_role("cell")).to_have_text(["1", "0"])
    page.get_by_label("As found with").select_option(label="Proposal B")
    expect(page.get_by_role("figure").nth(1)).to_contain_text("Proposal B")


def test_the_drawing_as_a_file_and_on_paper(page: Page) -> None:
    open_variant(page, "Ebb Tide", "As found")
    names = page.locator("[data-part]").count()
    page.get_by_role("link", name="Print").click()
    page.get_by_role("heading", name=re.compile("positive side")).wait_for()
    with page.expect_download() as kept:
        page.get_by_role("button", name="Positive side as SVG").click()
    assert kept.value.suggested_filename == "ebb-tide-as-found-positive-side.svg"
    text = kept.value.path().read_text()
    # The same picture, in a file of its own: every part by name, no class, ink on white.
    assert text.startswith("<?xml") and text.count("data-part=") == names
    assert "House bank" in text and "class=" not in text and "stroke:rgb(0, 0, 0)" in text
    page.goto("about:blank")
    page.set_content(text.partition("\n")[2])
    assert page.locator("svg [data-part]").count() == names


@pytest.mark.parametrize("light", LIGHTS)
def test_nothing_serious_for_those_who_see_or_hear_otherwise(
    page: Page, light: str, watch: Watch
) -> None:
    page.evaluate(f"localStorage.setItem('strom.light', '{light}')")
    page.reload()
    open_variant(page, "Pilot 3", "As found")
    to_patterns(page)
    page.get_by_role("region", name="The pattern picked").wait_for()
    page.locator("[data-part]").first.wait_for()
    assert serious(page) == []
    page.get_by_role("link", name="Back to the scheme").click()
    page.get_by_role("link", name="Compare").click()
    page.locator(".difference").first.wait_for()
    assert serious(page) == []


def test_by_thumb(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    open_variant(page, "Pilot 3", "As found")
    to_patterns(page)
    button = page.get_by_role("list", name="Patterns, the best first").get_by_role("button").first
    button.click()
    picked = page.get_by_role("region", name="The pattern picked")
    expect(picked.get_by_role("button", name="Make it a new proposal")).to_be_visible()
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390
