"""The stage Day in the real interface: a plan, its day, the comparison, the slip test."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import LIGHTS, open_variant, serious


def open_day(page: Page, job: str, variant: str) -> None:
    open_variant(page, job, variant)
    page.keyboard.press("6")
    expect(page.get_by_role("heading", name="Day", exact=True)).to_be_visible()


def part(page: Page, name: str) -> None:
    page.get_by_label("Parts of Day").get_by_role("button", name=name, exact=True).click()


def test_build_a_plan_run_it_and_scrub_through_it(page: Page, watch: Watch) -> None:
    watch.expected.append("422")  # a plan of 400 days is refused
    open_day(page, "Marsh Wren", "Proposal A")
    page.get_by_role("button", name="New plan").click()
    page.get_by_role("button", name="Day trip").click()
    verdict = page.get_by_label("Verdict")
    expect(verdict).to_contain_text("The engine starts")
    # The plan: the morning's run an hour longer, then a switch turned by hand.
    part(page, "Plan")
    page.get_by_role("button", name="Engine: 1800 rpm").first.click()
    to = page.get_by_label("To (day hour:minute)")
    to.fill("1 10:40")
    to.press("Tab")
    expect(page.get_by_role("heading", name="Engine", exact=True)).to_be_visible()
    page.get_by_role("button", name="+ Switch move").click()
    expect(page.get_by_text("its own moves")).to_be_visible()
    at = page.get_by_label("At (day hour:minute)")
    at.fill("1 11:00")
    at.press("Tab")
    expect(page.get_by_label("Switch moves in order")).to_contain_text("1 11:00")
    page.get_by_role("button", name="Take the last change back").click()
    expect(page.get_by_label("Switch moves in order")).not_to_contain_text("1 11:00")
    page.get_by_role("button", name="Do it again").click()
    expect(page.get_by_label("Switch moves in order")).to_contain_text("1 11:00")
    # What does not fit is told of, and stays to be mended.
    lasts = page.get_by_label("Lasts")
    lasts.fill("9600")
    lasts.press("Tab")
    expect(page.get_by_role("alert").first).to_contain_text("400 days; the longest plan has 200")
    lasts.fill("24")
    lasts.press("Tab")
    expect(page.get_by_text("Not kept yet")).to_have_count(0)
    part(page, "Day")
    expect(page.get_by_text("Run with an older scheme or plan")).to_be_visible()
    page.get_by_role("button", name="Run again").click()
    expect(page.get_by_text("Run with an older scheme or plan")).to_have_count(0)
    line = page.get_by_role("slider", name="Moment of the day")
    expect(line).to_have_attribute("aria-valuetext", "day 1, 08:00")
    line.focus()
    for _ in range(3):
        page.keyboard.press("PageUp")  # an hour each
    expect(page.get_by_label("The moment").get_by_role("heading")).to_have_text("day 1, 11:00")
    # The scheme of that moment stands beside it, solved.
    house = page.get_by_label("The moment").locator('[data-part="house_bank"]')
    expect(house).to_contain_text(re.compile(r"\d\d\.\d\d V"))
    before = house.text_content() or ""
    page.keyboard.press("End")
    expect(house).not_to_have_text(before)
    page.get_by_label("Events").get_by_role("button", name="Engine starts").first.click()
    expect(line).to_have_attribute("aria-valuetext", re.compile("day 1, 09:0"))
    page.get_by_role("button", name="Play").click()
    expect(line).not_to_have_attribute("aria-valuetext", re.compile("day 1, 09:0"))
    page.get_by_role("button", name="Pause").click()
    expect(page.get_by_label("Ledger")).to_contain_text("closes within 0.00")
    with page.expect_download() as kept:
        page.get_by_role("button", name="CSV out").click()
    assert kept.value.path().read_text().startswith("time [h],clock,")
    # A plan that is taken away is brought back with all that was done to it.
    part(page, "Plan")
    expect(page.get_by_label("Switch moves in order")).to_contain_text("1 11:00")
    page.get_by_role("button", name="Drop this plan").click()
    page.get_by_role("button", name=re.compile("^Take .* away")).click()
    expect(page.get_by_label("Switch moves in order")).not_to_contain_text("1 11:00")
    page.get_by_role("button", name="New plan").click()
    page.get_by_role("button", name=re.compile("^Bring .* back")).click()
    expect(page.get_by_label("Switch moves in order")).to_contain_text("1 11:00")


def test_compare_schools_and_look_at_a_cell(page: Page) -> None:
    open_day(page, "Marsh Wren", "As found")
    part(page, "Compare")
    page.get_by_role("button", name="Run 16 days").click()
    table = page.get_by_label("Comparison", exact=True).locator("table")
    expect(table).to_contain_text("Not on this boat: nothing aboard shares charge by itself")
    row = table.locator("tr", has_text="Proposal B").first
    cell = row.get_by_role("button", name=re.compile("Starts 2.2")).first
    expect(cell).to_contain_text("a day")
    cell.click()
    page.wait_for_url(re.compile("school="))
    expect(page.get_by_label("Verdict")).to_be_visible()
    expect(page.get_by_label("Handled by").locator("option:checked")).to_contain_text("Both")


def test_the_slip_test_is_cancelled_then_run_and_a_case_looked_at(page: Page) -> None:
    open_day(page, "Pilot 3", "As found")
    part(page, "Slip test")
    page.get_by_role("button", name="Run the slip test").click()
    page.get_by_role("button", name="Cancel", exact=True).click()
    expect(page.get_by_text(re.compile("cancelled after"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Run (again|the slip test)$")).last.click()
    cases = page.get_by_label("Slip test and fault sweep").get_by_role("listitem")
    expect(page.get_by_text(re.compile("Slip test: "))).to_have_count(0)
    expect(cases.first).to_contain_text(re.compile("Hazard|Stranded|Load lost"))
    story = cases.first.locator("strong").inner_text()
    cases.first.get_by_role("button").click()
    expect(page.get_by_text(f"One thing goes wrong in this day: {story}")).to_be_visible()
    expect(page.get_by_label("Verdict")).to_be_visible()
    page.get_by_role("button", name="Show it as planned").click()
    expect(page.get_by_text("One thing goes wrong in this day")).to_have_count(0)


@pytest.mark.parametrize("light", LIGHTS)
def test_no_serious_barriers_on_day(page: Page, light: str, watch: Watch) -> None:
    page.evaluate(f"localStorage.setItem('strom.light', '{light}')")
    page.reload()
    open_day(page, "Ebb Tide", "As found")
    page.get_by_role("button", name=re.compile("^Run (the day|again)$")).first.click()
    expect(page.get_by_label("Verdict")).to_contain_text("goes to float")
    assert serious(page) == []
    for name in ("Plan", "Slip test", "Compare"):
        part(page, name)
        assert serious(page) == [], name
