"""People: invited, signing in with a code of the phone, reading; and the list of jobs."""

from __future__ import annotations

import base64
import re

from django_otp.oath import totp
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Watch
from tests.browser.serving import Server, open_variant, serious

PASSWORD = "tide-table-7"


def joined(browser: Browser, link: str, name: str) -> Page:
    """Somebody else on another device, who follows an invitation."""
    page = browser.new_context(service_workers="block").new_page()
    page.goto(link)
    page.get_by_label("Your name").fill(name)
    page.get_by_label("A password").fill(PASSWORD)
    page.get_by_role("button", name="Join the workshop").click()
    page.get_by_role("heading", name="Jobs").wait_for()
    return page


def invitation(page: Page, server: Server, role: str) -> str:
    page.goto(f"{server.url}/people")
    invite = page.get_by_role("region", name="Invite somebody")
    invite.get_by_label("Name").fill("Cora")
    invite.get_by_label("Role").select_option(role)
    invite.get_by_role("button", name="Make an invitation").click()
    return page.locator(".link code").inner_text()


def code(secret: str, steps: int = 0) -> str:
    """What an authenticator app shows."""
    return f"{totp(base64.b32decode(secret), drift=steps):06d}"


def test_a_reader_looks_and_changes_nothing(
    page: Page, browser: Browser, server: Server, watch: Watch
) -> None:
    reader = joined(browser, invitation(page, server, "reader"), "rea")
    expect(reader.get_by_role("button", name="New boat")).to_be_hidden()
    open_variant(reader, "Ebb Tide", "As found")
    expect(reader.get_by_text("Reader", exact=True)).to_be_visible()
    reader.keyboard.press("e")
    expect(reader.get_by_role("button", name="Running")).to_be_visible()  # computing is for all
    article = reader.get_by_role("article").filter(has_text=re.compile("Apply the repair")).first
    article.get_by_role("button", name="Apply the repair").click()
    expect(reader.locator(".v-snackbar__content")).to_contain_text("A reader looks at everything")
    expect(reader.get_by_role("button", name="Undo")).to_be_disabled()
    page.reload()
    expect(page.get_by_role("region", name="Who did what")).to_contain_text("followed an invit")
    assert serious(page) == []
    # let out, the reader is at the door at once
    page.get_by_label("rea", exact=True).get_by_role("button", name="Let out").click()
    expect(page.get_by_text("out, signs in no more")).to_be_visible()
    reader.goto(server.url)
    expect(reader.get_by_role("heading", name="Sign in to your workshop")).to_be_visible()
    reader.context.close()


def test_a_code_of_the_phone_is_asked_for_at_the_door(
    page: Page, browser: Browser, server: Server
) -> None:
    person = joined(browser, invitation(page, server, "electrician"), "eli")
    person.get_by_role("button", name="Account menu").click()
    person.get_by_text("Password, second factor, sessions").click()
    factor = person.get_by_role("region", name="Second factor")
    factor.get_by_label("Your password").fill(PASSWORD)
    factor.get_by_role("button", name="Set it up").click()
    secret = factor.locator(".secret").inner_text()
    factor.get_by_label("six figures").fill(code(secret))
    factor.get_by_role("button", name="Ask for it").click()
    spare = factor.locator(".codes li")
    expect(spare).to_have_count(10)
    recovery = spare.first.inner_text()
    assert serious(person) == []
    for shown in (code(secret, 1), recovery):
        person.goto(server.url)
        person.get_by_role("button", name="Account menu").click()
        person.get_by_text("Sign out").click()
        person.get_by_label("Name", exact=True).fill("eli")
        person.get_by_label("Password", exact=True).fill(PASSWORD)
        person.get_by_role("button", name="Sign in", exact=True).click()
        person.get_by_label("Code of your phone").fill(shown)
        person.get_by_role("button", name="Sign in", exact=True).click()
        person.get_by_role("heading", name="Jobs").wait_for()
    person.context.close()


def test_jobs_are_found_sorted_put_away_and_taken_as_a_template(page: Page) -> None:
    cards = page.locator(".job h2")
    expect(cards).to_have_count(4)
    page.get_by_label("Search: boat").fill("outboard coil")  # gear aboard, of no name and no kind
    expect(cards).to_have_text(["Pilot 3"])
    page.get_by_label("Search: boat").fill("charter company")
    expect(cards).to_have_text(["Ebb Tide"])
    page.get_by_label("Search: boat").fill("")
    page.get_by_label("Sorted by").select_option("name")
    expect(cards).to_have_text(["Ebb Tide", "Grey Plover", "Marsh Wren", "Pilot 3"])
    page.get_by_label("Where the work on Pilot 3 stands").select_option("proved")
    page.get_by_label("Where the work stands").select_option("proved")
    expect(cards).to_have_text(["Pilot 3"])
    page.get_by_role("button", name="What can be done with Pilot 3").click()
    page.get_by_text("Put into the archive").click()
    expect(page.get_by_text("No job has all of this")).to_be_visible()
    page.get_by_label("Which jobs").select_option("archived")
    expect(cards).to_have_text(["Pilot 3"])
    page.get_by_role("button", name="What can be done with Pilot 3").click()
    page.get_by_text("Another boat like this one").click()
    page.get_by_role("dialog").get_by_label("Name of the new boat").fill("Pilot 4")
    page.get_by_role("dialog").get_by_role("button", name="Begin").click()
    page.get_by_label("Which jobs").select_option("open")
    page.get_by_label("Where the work stands").select_option("")
    open_variant(page, "Pilot 4", "As found")
    page.keyboard.press("1")
    # what was read aboard the first boat is assumed of the second
    expect(page.get_by_text("assumed").first).to_be_visible()
