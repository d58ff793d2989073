"""Handover: the owner's sheet, drill, practice, a stranger's link, pack and archive."""

from __future__ import annotations

import re
from zipfile import ZipFile

from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import LIGHTS, Server, open_variant, serious


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


def to_part(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Parts of Handover").get_by_role(
        "button", name=name
    ).click()


def test_the_owners_link_drills_and_is_revoked(
    page: Page, browser: Browser, server: Server, watch: Watch
) -> None:
    watch.expected = ["401", "ERR_INTERNET_DISCONNECTED"]
    to_handover(page)
    to_part(page, "Owner's link")
    page.get_by_label("For whom").fill("Åse")
    page.get_by_role("button", name="Make a link").click()
    address = page.locator(".address").inner_text()
    assert serious(page) == []
    to_part(page, "Drill")
    page.get_by_role("button", name="Smoke under the step").wait_for(timeout=120_000)

    phone = browser.new_context(viewport={"width": 390, "height": 844})
    watch.follow(phone)
    owner = phone.new_page()
    owner.set_default_timeout(60_000)
    owner.goto(address)
    anchor = owner.get_by_role("article").filter(has_text="At anchor, engine stopped")
    expect(anchor.get_by_text("Main selector")).to_be_visible(timeout=60_000)
    expect(owner.get_by_role("link")).to_have_count(0)
    assert serious(owner) == []
    owner.evaluate("navigator.serviceWorker.ready.then(() => true)")
    phone.set_offline(True)  # installed, it begins with the sheet, without a network too
    owner.goto(server.url)
    expect(anchor.get_by_text("Main selector")).to_be_visible()
    expect(owner.get_by_text("No connection")).to_be_visible()
    phone.set_offline(False)
    owner.reload()
    owner.get_by_role("button", name="Drill").click()
    owner.get_by_role("button", name="Smoke under the step").click()
    selector = owner.get_by_role("group", name=re.compile("Main selector"))
    selector.get_by_role("button", name="off").click()
    expect(owner.get_by_text("That does harm")).to_be_visible()
    expect(owner.get_by_text("Alternator has no battery now")).to_be_visible()
    assert serious(owner) == []
    owner.get_by_role("button", name="Again").click()
    owner.get_by_role("button", name="Stop the engine").click()
    expect(owner.get_by_text("stopped")).to_be_visible()
    selector.get_by_role("button", name="off").click()
    thruster = owner.get_by_role("group", name=re.compile("Thruster switch"))
    thruster.get_by_role("button", name="off").click()
    owner.get_by_role("button", name="So I leave it").click()
    expect(owner.get_by_text("✓ Right")).to_be_visible()
    owner.get_by_role("button", name="All scenes").click()
    owner.get_by_role("button", name="I read volts").click()
    owner.get_by_label("Battery").select_option("House bank")
    owner.get_by_label("Volts", exact=True).fill("12.4")
    owner.get_by_role("button", name="Send to the log").click()
    expect(owner.get_by_text("Kept.")).to_be_visible()

    to_part(page, "Owner's link")
    page.get_by_role("button", name="Revoke", exact=True).click()
    page.get_by_role("button", name="Revoke Åse's link").click()
    expect(page.get_by_text("revoked")).to_be_visible()
    owner.reload()
    expect(owner.get_by_text("This address opens nothing")).to_be_visible()
    page.goto(page.url.replace("/handover", "/log"))
    expect(page.get_by_text(re.compile("Åse, by link")).first).to_be_visible()
    phone.close()


def test_practice_pack_and_the_archive_round_trip(page: Page) -> None:
    to_handover(page)
    to_part(page, "Practice aboard")
    page.get_by_role("button", name="Start the clock").click()
    page.get_by_role("checkbox", name=re.compile("Starting the engine")).check()
    page.get_by_label("Owner").fill("Åse")
    page.get_by_role("button", name="Keep the practice").click()
    expect(page.get_by_text(re.compile("Åse, 1 done"))).to_be_visible()
    to_part(page, "Pack")
    assert serious(page) == []
    with page.expect_download(timeout=180_000) as kept:
        page.get_by_role("button", name="Archive, zip").click()
    archive = kept.value.path()
    with ZipFile(archive) as found:
        assert found.read("pdf/handover-pack.pdf")[:5] == b"%PDF-"
    page.goto(page.url.partition("/jobs")[0] + "/jobs")
    bring = page.locator('input[type="file"]')
    bring.set_input_files({"name": "wren.zip", "mimeType": "application/zip",
                           "buffer": archive.read_bytes()})  # fmt: skip
    expect(page.get_by_text("Brought in Marsh Wren.")).to_be_visible(timeout=60_000)
