"""Log: a reading by phone, records read and held against the boat, what stands in for a cure."""

from __future__ import annotations

import gzip
import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.serving import ROOT, open_variant, serious

SEASON = ROOT / "server/apps/logbook/demo_data/season_2024.csv.gz"


def to_log(page: Page, job: str, variant: str) -> None:
    open_variant(page, job, variant)
    page.goto(page.url.replace("/scheme", "/log"))
    page.get_by_role("region", name="Readings").wait_for()


def part(page: Page, name: str) -> None:
    parts = page.get_by_role("navigation", name="Parts of Log")
    parts.get_by_role("button", name=re.compile(name)).click()


def test_readings_service_and_a_crutch_by_phone(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    to_log(page, "Grey Plover", "Proposal A")
    form = page.get_by_role("form", name="New reading")
    form.get_by_label("On", exact=True).select_option("House bank")
    form.get_by_label("Read", exact=True).fill("12,6")
    form.get_by_role("button", name="Keep the reading").click()
    expect(form.get_by_role("alert")).to_contain_text("Write a decimal point")
    form.get_by_label("Read", exact=True).fill("25.5")
    form.get_by_label("Rested").fill("12")
    form.get_by_role("button", name="Keep the reading").click()
    expect(page.get_by_role("article", name="House bank: Rest volts")).to_contain_text("25.5 V")
    assert serious(page) == []
    part(page, "Settings")
    setting = page.get_by_role("form", name="New setting")
    setting.get_by_label("Setting").fill("Absorption at least")
    setting.get_by_label("Is now").fill("2 h")
    setting.get_by_label("Why").fill("Floats too early")
    setting.get_by_label("It only stands in for a cure").check()
    setting.get_by_label("Cause to cure").fill("Sense wire on the machine")
    setting.get_by_role("button", name="Keep the setting").click()
    expect(page.get_by_text("1 setting stands in for a cure")).to_be_visible()
    page.get_by_label("How the cause was cured").fill("Sense wire moved to the bank")
    page.get_by_role("button", name="✓ Cured").click()
    expect(page.get_by_text("setting stands in for a cure")).to_have_count(0)
    expect(page.get_by_text(re.compile("Closed .*: Sense wire moved"))).to_be_visible()
    assert serious(page) == []
    part(page, "Service")
    task = page.get_by_role("listitem").filter(has_text="Torque and corrosion")
    task.get_by_role("button", name="Done").click()
    task.get_by_label("What was seen").fill("All tight")
    task.get_by_role("button", name="Keep as done today").click()
    expect(task.get_by_text("Done before: 1")).to_be_visible()
    assert serious(page) == []


def test_records_are_read_and_show_a_weak_charge(page: Page, tmp_path: Path) -> None:
    to_log(page, "Marsh Wren", "As found")
    part(page, "Records")
    chart = page.get_by_label("Records over time")
    expect(chart.get_by_role("img", name=re.compile("^Volts"))).to_be_visible()
    # The same season under another name and layout: a comma for decimals, millivolts, a bad row.
    rows = gzip.decompress(SEASON.read_bytes()).decode().splitlines()
    lines = ["Zeit;Spannung [mV];Strom [A];SOC [%]", "kaputt;1;1;1"]
    for row in rows[1:900]:
        at, volts, amps, charge, *_ = row.replace("'", "").split(",")
        day = at.replace("2024", "2023")
        share = f"{100 * float(charge):.1f}".replace(".", ",")
        lines.append(f"{day};{1000 * float(volts):.0f};{amps.replace('.', ',')};{share}")
    path = tmp_path / "monitor.csv"
    path.write_text("\n".join(lines), encoding="utf-8")
    page.get_by_label("File of records").set_input_files(path)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_label("What Spannung [mV] is")).to_have_value("volts")
    expect(dialog.get_by_label("Unit of Spannung [mV]")).to_have_value("mV")
    dialog.get_by_label("Charged, beside the sun, by").select_option(
        label="the engine; never shore power"
    )
    assert serious(page) == []
    dialog.get_by_role("button", name="Read the rows").click()
    file = page.get_by_role("article", name="monitor.csv")
    expect(file.get_by_text("899 rows")).to_be_visible(timeout=60_000)
    expect(file.get_by_text("1 could not be read")).to_be_visible()
    file.get_by_role("button", name="Hold against this boat").click()
    found = file.get_by_role("group", name="Findings from records")
    expect(found).to_be_visible(timeout=120_000)
    expect(found.get_by_text(re.compile("Volts it is held at"))).to_be_visible()
    causes = file.get_by_role("group", name="Causes")
    expect(causes.get_by_text(re.compile("set too low|lead of Alternator")).first).to_be_visible()
    file.get_by_text(re.compile("What happened:")).click()
    expect(file.get_by_text("record one hour at one minute")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("button", name="Take out monitor.csv").click()
    file.get_by_role("button", name="Keep them").click()
    page.get_by_role("button", name="Take out monitor.csv").click()
    file.get_by_role("button", name="Take out 899 rows for good").click()
    expect(file).to_have_count(0)
