"""The server away in the middle of the work: nothing that was entered is lost, and all is said."""

from __future__ import annotations

import re

import psycopg
from playwright.sync_api import BrowserContext, Locator, Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import Server, open_variant


def capacity(page: Page) -> Locator:
    """The field of the start battery's capacity, in Survey."""
    page.get_by_role("link", name=re.compile("Survey")).first.click()
    parts = page.get_by_role("navigation", name=re.compile("Parts of"))
    parts.get_by_role("button", name=re.compile("^Banks")).click()
    return page.get_by_label("Capacity").first


def test_entries_outlive_the_server_the_page_and_the_session(
    page: Page, server: Server, visitor: BrowserContext, watch: Watch
) -> None:
    watch.expected += ["ERR_CONNECTION_REFUSED", "401"]
    open_variant(page, "Pilot 3", "As found")
    field = capacity(page)
    fetched = "performance.getEntriesByType('resource').map(e => e.name).join()"
    while "NotFoundPage" not in page.evaluate(fetched):  # every page's script, this one last
        page.wait_for_timeout(100)
    page.wait_for_load_state("networkidle")
    server.stop()
    try:
        field.fill("123")
        field.press("Tab")
        waiting = page.get_by_role("status", name="Not saved yet")
        expect(waiting).to_contain_text("1 entry is not saved yet")
        page.get_by_role("link", name=re.compile("Loads")).first.click()
        expect(page.get_by_role("heading", name="Loads")).to_be_visible()
        expect(capacity(page)).to_have_value("123")
        page.on("dialog", lambda dialog: dialog.accept())  # leaving is warned of
        page.close()
    finally:
        server.start()
    again = visitor.new_page()
    again.goto(server.url)
    expect(again.get_by_role("heading", name="Jobs")).to_be_visible()
    open_variant(again, "Pilot 3", "As found")
    field = capacity(again)
    expect(field).to_have_value("123")
    visitor.clear_cookies(name="sessionid")
    field.fill("124")
    field.press("Tab")
    dialog = again.get_by_role("dialog")
    expect(dialog).to_contain_text("Your session has ended")
    dialog.get_by_role("button", name="Enter the demo workshop").click()
    expect(dialog).to_be_hidden()
    again.reload()
    field = capacity(again)
    expect(field).to_have_value("124")
    field.fill("70")  # as it was: other journeys meet the same boat
    field.press("Tab")
    expect(again.get_by_role("button", name="Undo")).to_be_enabled()


def test_a_job_is_renamed_binned_and_comes_back_and_dead_links_say_so(
    page: Page, server: Server, watch: Watch
) -> None:
    watch.expected += ["404"]

    def choose(job: str, what: str) -> None:
        page.get_by_role("button", name=f"What can be done with {job}").click()
        page.get_by_text(what, exact=True).click()

    def rename(job: str, name: str) -> None:
        choose(job, "Name and owner")
        page.get_by_role("dialog").get_by_label("Name of the boat").fill(name)
        page.get_by_role("dialog").get_by_role("button", name="Keep", exact=True).click()

    rename("Ebb Tide", "Spring Tide")
    expect(page.get_by_role("heading", name="Spring Tide")).to_be_visible()
    open_variant(page, "Spring Tide", "As found")
    address = page.url
    page.get_by_role("link", name="All jobs").click()
    choose("Spring Tide", "Put into the bin")
    expect(page.get_by_role("heading", name="Spring Tide")).to_be_hidden()
    page.goto(address)
    expect(page.get_by_text("This boat is not in your workshop")).to_be_visible()
    page.goto(f"{server.url}/nowhere")
    expect(page.get_by_text("There is no such page")).to_be_visible()
    page.goto(server.url)
    page.get_by_label("Which jobs").select_option("bin")
    page.get_by_role("button", name="Take out of the bin").click()
    page.get_by_label("Which jobs").select_option("open")
    rename("Spring Tide", "Ebb Tide")
    expect(page.get_by_role("heading", name="Ebb Tide")).to_be_visible()


def test_a_scheme_without_a_part_says_what_to_do(page: Page) -> None:
    open_variant(page, "Pilot 3", "Relay turned round")
    page.get_by_role("button", name="New proposal").click()
    page.get_by_role("button", name="Make the proposal").click()
    expect(page.get_by_role("link", name="Proposal A")).to_have_attribute("aria-current", "page")
    parts = page.locator("[data-part]")
    for left in range(parts.count(), 0, -1):
        expect(parts).to_have_count(left)
        parts.first.click()
        page.get_by_role("button", name="Take it out with its cables").click()
    expect(page.get_by_role("heading", name="No bank is aboard")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo: Took out")).click()
    expect(parts).to_have_count(1)


def test_the_database_comes_back_and_all_goes_on(page: Page, server: Server, watch: Watch) -> None:
    """Every connection is cut: pages ask again, workers begin again, and a day is run."""
    watch.expected.append("503")
    with psycopg.connect(server.environment["STROM_DATABASE_URL"], autocommit=True) as db:
        db.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
            " WHERE pid <> pg_backend_pid() AND datname = current_database()"
        )
    open_variant(page, "Pilot 3", "As found")
    page.keyboard.press("6")
    page.get_by_role("button", name="Run the day").first.click()
    expect(page.get_by_label("Verdict")).to_contain_text("engine", timeout=60_000)
