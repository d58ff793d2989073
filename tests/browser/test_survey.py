"""The journey of Survey, Loads and Banks: a boat from nothing to a chosen bank."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import LIGHTS, open_variant, serious

PASTE = """([cell, text]) => {
  const data = new DataTransfer();
  data.setData('text/plain', text);
  cell.dispatchEvent(new ClipboardEvent('paste', {
    clipboardData: data, bubbles: true, cancelable: true,
  }));
}"""


def new_boat(page: Page, name: str, kind: str = "Cruising yacht") -> None:
    """Enter a boat from nothing; ends on its survey."""
    page.get_by_role("button", name="New boat").click()
    page.get_by_label("Name of the boat").fill(name)
    page.get_by_role("radio", name=re.compile(kind)).click()
    page.get_by_role("button", name="Start the survey").click()
    page.get_by_role("heading", name="Survey").wait_for()


def part(page: Page, name: str) -> None:
    """Go to a part of the stage."""
    page.get_by_role("navigation", name=re.compile("Parts of")).get_by_role(
        "button", name=name
    ).click()


def go(page: Page, stage: str) -> None:
    """Go to a stage by the rail; keys do nothing while a field is written in."""
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=stage).click()
    page.get_by_role("heading", name=stage, exact=True).wait_for()


def enter(field: Locator, text: str) -> None:
    """Type into a field and leave it."""
    field.fill(text)
    field.press("Tab")


def ampere_hours(page: Page, profile: str) -> float:
    tile = page.get_by_role("radio", name=re.compile(profile))
    return float(str(tile.locator(".ah").inner_text()).split(" Ah")[0])


def to_find_out(page: Page) -> int:
    words = page.get_by_role("button", name=re.compile(r"^\d+ to find out")).inner_text()
    return int(words.split()[0])


def test_a_new_boat_from_nothing_to_a_chosen_bank(page: Page) -> None:
    new_boat(page, "Grey Tern")
    asked = to_find_out(page)
    assert asked > 30
    enter(page.get_by_label("What the owner complains of"), "Flat by Sunday.")
    page.get_by_label("Way of use").select_option("Weekends")
    part(page, "Boat")
    enter(page.get_by_label("Coldest morning to start on"), "4")
    enter(page.get_by_label("Latitude of the cruising ground"), "54,5")
    expect(page.get_by_role("alert")).to_contain_text("54.5")
    enter(page.get_by_label("Latitude of the cruising ground"), "54.5")
    expect(page.get_by_role("alert")).to_have_count(0)
    part(page, "Places")
    run = page.locator("li.run").filter(has_text="Battery box – Engine space")
    enter(run.get_by_label("Length"), "1.9")
    expect(run).to_contain_text("✓ measured")
    part(page, "Cables")
    first = page.get_by_role("row").filter(has_text="Engine bank − to Engine block").first
    expect(first).to_contain_text("by the run")
    part(page, "Banks")
    house = page.get_by_role("article", name="House bank")
    enter(house.get_by_label("Capacity of one"), "105")
    enter(house.get_by_label("Rested for"), "9")
    enter(house.get_by_label("Volts at the posts"), "12.40")
    expect(house).to_contain_text("about 60 %, between 50 % and 70 %")
    house.get_by_role("button", name="Take 60 %").click()
    expect(house).to_contain_text("it stands at 60 %")
    part(page, "Gear")
    page.get_by_role("button", name="Put in a solar panel").click()
    solar = page.get_by_role("article", name="Solar")
    enter(solar.get_by_label("Panels").first, "240")
    go(page, "Loads")
    before = ampere_hours(page, "At anchor")
    enter(page.get_by_label("Refrigerator, Draw"), "5.2")
    expect(page.get_by_role("radio", name=re.compile("At anchor")).locator(".ah")).not_to_have_text(
        re.compile(f"^{before:.0f} Ah")
    )
    # one ampere more, 24 h, duty 0.45
    assert ampere_hours(page, "At anchor") - before == pytest.approx(1.0 * 24 * 0.45, abs=1)
    go(page, "Banks")
    fitted = page.get_by_role("button", name="In this variant")
    expect(fitted).to_have_count(1)
    page.get_by_role("button", name="New proposal").click()
    page.get_by_role("button", name="Make the proposal").click()
    expect(page.get_by_role("link", name="Proposal A")).to_have_attribute("aria-current", "page")
    lithium = page.get_by_role("columnheader").filter(has_text="Lithium")
    lithium.first.get_by_role("button", name="Choose this").click()
    expect(page.get_by_text(re.compile("fitted: .*Lithium"))).to_be_visible()
    page.keyboard.press("f")
    findings = page.get_by_label("Findings", exact=True)
    expect(findings).to_contain_text("CH-1")
    page.keyboard.press("4")
    expect(page.locator('[data-part="house_bank"]')).to_contain_text("lithium")
    page.keyboard.press("u")
    expect(page.locator('[data-part="house_bank"]')).to_contain_text("AGM 2 × 105 Ah")


def test_measure_by_difference_and_undo(page: Page) -> None:
    new_boat(page, "Sand Martin")
    page.keyboard.press("2")
    part(page, "Measure aboard")
    enter(page.get_by_label("1 Reading before"), "-0.6")
    page.get_by_label("2 What is switched on").select_option("Refrigerator")
    enter(page.get_by_label("3 Reading after"), "-5.4")
    kept = page.get_by_role("row").filter(has_text="Refrigerator")
    expect(kept).to_contain_text("4.8 A")
    expect(page.get_by_label("1 Reading before")).to_have_value("-5.4")
    page.get_by_role("button", name="Undo").click()
    expect(kept).to_have_count(0)
    page.get_by_role("button", name="History").click()
    history = page.get_by_role("dialog", name="History")
    history.get_by_role("radio", name="Survey").click()
    expect(history).to_contain_text("Measured Refrigerator: 4.8 A")


def test_tables_in_and_out(page: Page, tmp_path: Path, watch: Watch) -> None:
    watch.expected = ["422"]
    new_boat(page, "Tide Runner")
    page.keyboard.press("2")
    cell = page.get_by_label("Refrigerator, Draw")
    cell.wait_for()
    page.evaluate(PASTE, [cell.element_handle(), "5.5\t\t\t0.4\n6,5\t\t\t1"])
    told = page.get_by_role("dialog", name="Table to bring in")
    expect(told).to_contain_text("1 of 2 rows can be kept")
    expect(told).to_contain_text("row 3, column draw")
    table = told.get_by_label("The table")
    table.fill(table.input_value().replace("6,5", "6.5"))
    told.get_by_role("button", name="Read it again").click()
    told.get_by_role("button", name="Keep all 2 rows").click()
    expect(cell).to_have_value("5.5")
    expect(page.get_by_label("Fresh-water pump, Draw")).to_have_value("6.5")
    with page.expect_download() as loading:
        page.get_by_role("link", name="Export CSV").click()
    saved = tmp_path / "loads.csv"
    loading.value.save_as(saved)
    assert "Refrigerator,Galley,5.5" in saved.read_text().replace("fridge,", "")
    empty = tmp_path / "empty.csv"
    empty.write_text("")
    page.get_by_label("Loads as CSV").set_input_files(empty)
    expect(told).to_contain_text("the file is empty")
    told.get_by_role("button", name="Keep nothing").click()
    large = tmp_path / "large.csv"
    large.write_text("name,draw\n" + "Lamp,1\n" * 100_000)
    page.get_by_label("Loads as CSV").set_input_files(large)
    expect(told).to_contain_text("100,000 rows; at most 500")


def test_counted_days_beside_the_audit(page: Page) -> None:
    open_variant(page, "Marsh Wren", "As found")
    page.keyboard.press("2")
    part(page, "Counted")
    card = page.get_by_role("article", name="At anchor, summer")
    expect(card).to_contain_text("more counted than audited")
    expect(card).to_contain_text("The inverter left on all day")
    part(page, "A day")
    expect(page.get_by_role("img", name=re.compile("Mean amps"))).to_be_visible()
    expect(page.get_by_label("A day: Under way")).to_contain_text("On the engine bank at rest")


def test_photographs_and_the_walk_round_sheet(page: Page, tmp_path: Path) -> None:
    new_boat(page, "Mud Lark", "Open workboat")
    part(page, "Photos")
    picture = tmp_path / "panel.jpg"
    Image.new("RGB", (640, 480), "teal").save(picture)
    page.get_by_label("Choose photographs").set_input_files(picture)
    enter(page.get_by_label("What it shows"), "Behind the panel")
    expect(page.get_by_role("img", name="Behind the panel")).to_be_visible()
    page.get_by_role("link", name="Walk-round sheet").click()
    sheet = page.get_by_role("article")
    expect(sheet).to_contain_text("Walk-round sheet: Mud Lark")
    expect(sheet).to_contain_text("coldest morning on which it must start")
    expect(sheet).to_contain_text("licensed practitioner decide")


@pytest.mark.parametrize("light", LIGHTS)
def test_no_barrier_on_any_part(page: Page, light: str) -> None:
    page.evaluate(f"localStorage.setItem('strom.light', '{light}')")
    page.reload()
    open_variant(page, "Marsh Wren", "As found")
    for digit, stage in (("1", "Survey"), ("2", "Loads"), ("3", "Banks")):
        page.keyboard.press(digit)
        page.get_by_role("heading", name=stage, exact=True).wait_for()
        names = page.get_by_role("navigation", name=re.compile("Parts of")).get_by_role("button")
        names.first.wait_for()
        for n in range(names.count()):
            names.nth(n).click()
            page.locator(".content :is(section, table)").first.wait_for()
            assert serious(page) == []
