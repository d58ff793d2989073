"""A new user: from an empty workshop to a proposal that a surveyor would pass."""

from __future__ import annotations

import re
import subprocess
import sys
import time

from playwright.sync_api import BrowserContext, Page, expect

from tests.browser.serving import ROOT, Server, serious

PASSWORD = "a long word for tests 7"


def first_person(server: Server, name: str) -> None:
    """A person in a workshop of her own, which is empty."""
    command = [sys.executable, "server/manage.py", "add_person", "--workshop", f"{name} & Co"]
    command += ["--username", name, "--password", PASSWORD]
    quiet = subprocess.DEVNULL
    subprocess.run(command, cwd=ROOT, env=server.environment, check=True, stdout=quiet)


def sign_in(visitor: BrowserContext, server: Server, name: str) -> Page:
    page = visitor.new_page()
    page.goto(server.url)
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Jobs").wait_for()
    return page


def test_from_an_empty_workshop_to_a_proposal_that_passes(
    visitor: BrowserContext, server: Server
) -> None:
    first_person(server, "berta")
    page = sign_in(visitor, server, "berta")
    began = time.monotonic()
    expect(page.get_by_label("What to do first")).to_contain_text("three steps")
    assert serious(page) == []
    page.get_by_role("button", name="Enter the first boat").click()
    page.get_by_label("Name of the boat").fill("Sand Martin")
    # By keyboard from here: the kind by its radio, the way of switching follows the kind.
    page.get_by_role("radio", name=re.compile("Day boat")).press("Space")
    expect(page.get_by_role("radio", name="One on/off switch")).to_be_visible()
    expect(page.get_by_role("radio", name="One four-position selector")).to_have_count(0)
    page.get_by_role("radio", name=re.compile("Cruising yacht")).press("Space")
    page.get_by_role("radio", name="One four-position selector").press("Space")
    page.get_by_role("button", name="Start the survey").press("Enter")
    page.get_by_role("heading", name="Survey").wait_for()
    page.keyboard.press("4")
    page.locator("[data-part]").first.wait_for()
    # As found she does not pass, and the first line of the drawer says so.
    standing = page.get_by_role("status").filter(has_text=re.compile("pass|danger", re.I))
    expect(standing.first).to_contain_text("Does not pass")
    page.get_by_role("link", name="Patterns").press("Enter")
    picked = page.get_by_role("region", name="The pattern picked")
    expect(picked.get_by_role("status")).to_contain_text(re.compile("Passes|No danger, no fault"))
    picked.get_by_text(re.compile("Chosen with it")).click()
    expect(picked).to_contain_text("AWG")
    picked.get_by_role("button", name="Make it a new proposal").press("Enter")
    page.get_by_label("This moment").wait_for()
    page.locator('[data-part="relay_1"]').wait_for()
    expect(standing.first).to_contain_text("No danger, no fault")
    print(f"from an empty workshop to a clean proposal: {time.monotonic() - began:.0f} s")
    # The key that opens a sheet closes it again.
    page.keyboard.press("p")
    card = page.get_by_role("dialog").filter(has_text="Position card")
    expect(card).to_be_visible()
    page.keyboard.press("p")
    expect(card).to_have_count(0)
    # One plan picked, and its day is run by itself.
    page.keyboard.press("6")
    page.locator(".start .ready button").first.click()
    page.get_by_label("Moment of the day").wait_for()
