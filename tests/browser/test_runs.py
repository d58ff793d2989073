"""Journeys of runs and findings: size all, lock one, what if, repair, waive, report, stock."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import LIGHTS, Server, open_variant, serious


def to_runs(page: Page, job: str = "Pilot 3", variant: str = "As found") -> Locator:
    open_variant(page, job, variant)
    page.keyboard.press("5")
    table = page.get_by_role("table", name="Runs")
    table.get_by_role("row").nth(1).wait_for()
    return table


def row(table: Locator, name: str) -> Locator:
    return table.get_by_role("row").filter(has_text=name)


def findings_of(page: Page) -> int:
    text = page.get_by_role("button", name=re.compile(r"\d+ findings?")).inner_text()
    return int(text.split()[0])


def test_size_all_but_what_stays(page: Page) -> None:
    table = to_runs(page)
    panel = row(table, "House battery + to Console panel +")
    size = panel.get_by_role("combobox")
    size.select_option("14 AWG")
    expect(page.get_by_text("■ ", exact=False).first).to_be_visible()
    panel.get_by_role("checkbox").check()
    expect(panel.get_by_role("checkbox")).to_be_checked()
    before = findings_of(page)
    page.keyboard.press("c")
    dialog = page.get_by_role("dialog", name="Sizes and devices chosen")
    expect(dialog.get_by_text("the smallest in stock that meet everything")).to_be_visible()
    assert "Console panel" not in " ".join(
        li.inner_text() for li in dialog.locator("ul").first.locator("li").all()
    )
    dialog.get_by_role("button", name=re.compile("^Make ")).click()
    expect(dialog).to_have_count(0)
    expect(size).to_have_value("14 AWG")
    page.wait_for_function(
        "n => parseInt([...document.querySelectorAll('button')].find(b => /finding/.test("
        "b.innerText)).innerText) < n",
        arg=before,
    )
    page.keyboard.press("u")
    expect(row(table, "Outboard starter + to Outboard charging coil out")).to_have_count(1)


def test_a_length_by_keyboard_and_what_if(page: Page) -> None:
    table = to_runs(page, "Pilot 3", "Relay turned round")
    cells = table.locator("[data-cell$=':out']")
    cells.first.focus()
    page.keyboard.press("ArrowDown")
    expect(table.locator("[data-cell='1:out']")).to_be_focused()
    page.keyboard.type("9.5")
    page.keyboard.press("Enter")
    expect(table.locator("[data-cell='1:out']")).to_have_value("9.5")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    row(table, "House battery + to Console panel +").get_by_role("button").click()
    sheet = page.get_by_label("Run", exact=True)
    sheet.get_by_role("button", name="Voltage drop").click()
    expect(sheet).to_contain_text("IEC 60028")
    expect(sheet).to_contain_text("confirm in the edition in force")
    sheet.get_by_role("button", name="Bundled with three others").click()
    expect(sheet.get_by_role("status")).to_contain_text("80.0 A → 48.0 A allowed")
    sheet.get_by_role("button", name="Make it so").click()
    expect(sheet.get_by_label("Conductors in the bundle")).to_have_value("4")


def test_a_table_goes_out_and_comes_back(page: Page) -> None:
    to_runs(page)
    with page.expect_download() as download:
        page.get_by_role("button", name="CSV out").click()
    text = download.value.path().read_text(encoding="utf-8")
    assert text.startswith("cable,length_m,")
    lines = text.splitlines()
    cut = [lines[0], lines[1].replace("2 AWG", "1/0 AWG", 1), lines[2].replace("1.1", "one")]
    page.locator("input[type=file]").set_input_files(
        {"name": "runs.csv", "mimeType": "text/csv", "buffer": "\n".join(cut).encode()}
    )
    dialog = page.get_by_role("dialog", name="Table of cables to bring in")
    expect(dialog).to_contain_text("1 of 2 rows change a cable")
    expect(dialog).to_contain_text("row 3, column length_m: 'one' is not a number")
    dialog.get_by_role("button", name="Keep the good 1 rows").click()
    expect(dialog).to_have_count(0)
    table = page.get_by_role("table", name="Runs")
    expect(table.get_by_role("combobox").first).to_have_value("1/0 AWG")


def test_repair_waive_and_report(page: Page) -> None:
    to_runs(page, "Ebb Tide", "Proposal A")
    page.keyboard.press("f")
    drawer = page.get_by_label("Findings", exact=True)
    before = findings_of(page)
    drawer.get_by_role("button", name=re.compile("Repair all that are safe")).click()
    dialog = page.get_by_role("dialog", name="Repairs that are safe")
    expect(dialog).to_contain_text("repairs, in this order")
    dialog.get_by_role("button", name=re.compile("^Make ")).click()
    expect(dialog).to_have_count(0)
    page.wait_for_function(
        "n => parseInt([...document.querySelectorAll('button')].find(b => /finding/.test("
        "b.innerText)).innerText) < n",
        arg=before,
    )
    drawer.get_by_label("Group by").select_option("place")
    expect(drawer.get_by_role("heading", name=re.compile("^Engine space"))).to_be_visible()
    drawer.get_by_label("Group by").select_option("severity")
    card = drawer.locator("article.finding", has_text="CH-9").first
    title = card.locator("h3").inner_text()
    counted = findings_of(page)
    card.get_by_role("button", name="Waive").click()
    waive = page.get_by_role("dialog", name="Waive a finding")
    waive.get_by_role("button", name="Waive it").click()
    expect(waive).to_contain_text("Say why")
    waive.get_by_label("Why it may stay as it is").fill("The regulator is ordered for spring.")
    waive.get_by_role("button", name="Waive it").click()
    expect(waive).to_have_count(0)
    expect(page.get_by_role("button", name=f"{counted - 1} findings")).to_be_visible()
    drawer.get_by_role("link", name="Report").click()
    expect(page.get_by_role("heading", name="Waived")).to_be_visible()
    expect(page.get_by_text("The regulator is ordered for spring.")).to_be_visible()
    expect(page.get_by_text(title)).to_be_visible()
    expect(page.get_by_role("heading", name="Runs")).to_be_visible()
    assert page.pdf()[:4] == b"%PDF"


def test_the_rule_book_ladders_paths_and_detours(page: Page) -> None:
    to_runs(page, "Marsh Wren", "Proposal A")
    page.get_by_role("button", name="Whole paths").click()
    page.get_by_role("button", name=re.compile("House bank to House panel")).click()
    expect(page.get_by_role("table", name="Pieces of the path")).to_contain_text("House bank fuse")
    page.get_by_role("button", name="Ladders").click()
    page.get_by_label("A short on").select_option(label="Bilge pump fuse b to Bilge pump +")
    expect(page.get_by_role("status").first).to_contain_text("Bilge pump fuse (7.5 A) opens")
    page.get_by_role("button", name="Detours").click()
    panel = page.get_by_role("table", name="House bank to House panel")
    expect(panel.get_by_role("row")).to_have_count(4)
    page.keyboard.press("f")
    page.get_by_role("link", name="Rule book").click()
    expect(page.get_by_role("heading", name="Rule book")).to_be_visible()
    page.get_by_label("Find a rule").fill("OC-1 ")
    rule = page.locator("#OC-1")
    expect(rule).to_contain_text("0.175 m")
    expect(rule).to_contain_text("Shore charger out1")


def test_sizes_are_chosen_from_the_stock(page: Page) -> None:
    to_runs(page, "Pilot 3", "Relay turned round")
    page.get_by_role("link", name="Stock").click()
    page.get_by_label("Price of 2 AWG a metre").fill("12,5")
    page.get_by_label("Price of 2 AWG a metre").press("Tab")
    expect(page.get_by_text("▲ 2 AWG:")).to_be_visible()
    page.get_by_label("Price of 2 AWG a metre").fill("12.5")
    page.get_by_label("18 AWG", exact=True).uncheck()
    page.get_by_role("button", name="Keep this stock").click()
    expect(page.get_by_text("This is your own stock.")).to_be_visible()
    page.get_by_role("button", name="Back to the usual").click()
    expect(page.get_by_text("Nothing has been kept yet")).to_be_visible()
    page.get_by_role("button", name="Back", exact=True).click()
    expect(page.get_by_role("table", name="Runs")).to_be_visible()


@pytest.mark.parametrize("light", LIGHTS)
def test_runs_can_be_read_in_every_light(
    page: Page, server: Server, watch: Watch, light: str
) -> None:
    page.context.add_init_script(f"localStorage.setItem('strom.light', '{light}')")
    to_runs(page, "Marsh Wren", "As found")
    assert serious(page) == []
    page.get_by_role("row").nth(2).get_by_role("button").click()
    page.keyboard.press("f")
    assert serious(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    page.reload()
    page.get_by_role("table", name="Runs").get_by_role("row").first.wait_for()
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390
