"""Makes the pictures in docs/screenshots anew: ``./strom shots``."""

from __future__ import annotations

import re

from playwright.sync_api import Browser, Page

from tests.browser.serving import (
    ROOT,
    Server,
    demo_database,
    enter,
    open_variant,
    running_browser,
    running_server,
)

FOLDER = ROOT / "docs/screenshots"
DESK = (1280, 800)
PHONE = (390, 844)


def visit(browser: Browser, server: Server, size: tuple[int, int], light: str) -> Page:
    """A visitor in the demo workshop, in one of the lights, without motion."""
    context = browser.new_context(
        viewport={"width": size[0], "height": size[1]}, reduced_motion="reduce"
    )
    context.add_init_script(f"localStorage.setItem('strom.light', '{light}')")
    page = context.new_page()
    enter(page, server)
    return page


def take(page: Page, name: str) -> None:
    """One picture, and the visitor leaves."""
    page.wait_for_timeout(700)
    page.screenshot(path=FOLDER / f"{name}.png")
    page.context.close()


def main() -> None:
    """Take them all."""
    FOLDER.mkdir(exist_ok=True)
    with demo_database() as demo, running_server(demo) as server, running_browser() as browser:
        for name, size, light, variant, keys in (
            ("scheme-day-engine-on", DESK, "day", "As found", "e"),
            ("scheme-night", DESK, "night", "Proposal A", "eh"),
        ):
            page = visit(browser, server, size, light)
            open_variant(page, "Marsh Wren", variant)
            page.get_by_role("navigation", name="Variants").get_by_role("link").first.wait_for()
            for key in keys:
                page.keyboard.press(key)
            take(page, name)
        for name, digit, part in (
            ("survey", "1", "Banks"),
            ("loads", "2", "Audit"),
            ("banks", "3", "Candidates"),
        ):
            page = visit(browser, server, DESK, "day")
            open_variant(page, "Marsh Wren", "As found")
            page.keyboard.press(digit)
            parts = page.get_by_role("navigation", name=re.compile("Parts of"))
            parts.get_by_role("button", name=part, exact=False).first.click()
            page.locator(".content :is(section, table)").first.wait_for()
            take(page, name)
        page = visit(browser, server, DESK, "day")
        open_variant(page, "Marsh Wren", "As found")
        page.get_by_role("link", name="Patterns").click()
        page.get_by_role("region", name="The pattern picked").wait_for()
        page.locator("[data-part]").first.wait_for()
        take(page, "patterns")
        page = visit(browser, server, DESK, "day")
        open_variant(page, "Marsh Wren", "As found")
        page.get_by_role("link", name="Compare").click()
        page.locator(".difference").first.wait_for()
        take(page, "compare")
        _build(browser, server)
        _prove(browser, server)
        _log(browser, server)
        _runs(browser, server)
        _day(browser, server)
        _handover(browser, server)
        _aboard(browser, server)


def _build(browser: Browser, server: Server) -> None:
    """Build: a step with what is live."""
    page = visit(browser, server, DESK, "day")
    open_variant(page, "Marsh Wren", "Proposal C")
    page.keyboard.press("7")
    page.get_by_role("region", name="Steps").wait_for()
    page.get_by_role("button", name=re.compile("Negatives off first")).click()
    take(page, "build-step")


def _prove(browser: Browser, server: Server) -> None:
    """Prove: a test on the phone, and the causes of a miss."""

    def opened(size: tuple[int, int], part: str) -> Page:
        page = visit(browser, server, size, "day")
        open_variant(page, "Marsh Wren", "Proposal C")
        page.goto(page.url.replace("/scheme", "/prove"))
        page.get_by_text(re.compile("Test 1 of")).wait_for()
        parts = page.get_by_role("navigation", name="Parts of Prove")
        parts.get_by_role("button", name=part, exact=True).click()
        return page

    page = opened(PHONE, "All tests")
    page.get_by_role("button", name=re.compile("Drop in minus while cranking")).click()
    page.get_by_role("button", name="Take it from the meter").click()
    page.get_by_text("▲ outside").wait_for()
    take(page, "prove-phone")
    page = opened(DESK, "Find the fault")
    page.get_by_text("Read next").wait_for(timeout=90_000)
    take(page, "prove-diagnosis")


def _log(browser: Browser, server: Server) -> None:
    """Log: records held against the boat."""

    def opened(part: str) -> Page:
        page = visit(browser, server, DESK, "day")
        open_variant(page, "Marsh Wren", "As found")
        page.keyboard.press("9")
        parts = page.get_by_role("navigation", name="Parts of Log")
        parts.get_by_role("button", name=re.compile(part)).click()
        page.get_by_role("region", name=part, exact=True).wait_for()
        return page

    page = opened("Records")
    file = page.get_by_role("article", name="season_2024.csv")
    file.get_by_role("button", name="Hold against this boat").click()
    file.get_by_role("group", name="Findings from records").wait_for(timeout=120_000)
    file.get_by_role("heading", name="season_2024.csv").evaluate(
        "e => document.querySelector('.content').scrollBy(0, e.getBoundingClientRect().top - 420)"
    )
    take(page, "log-records")


def _runs(browser: Browser, server: Server) -> None:
    """The stage Runs, and findings beside it."""

    def opened(light: str = "day") -> Page:
        page = visit(browser, server, DESK, light)
        open_variant(page, "Marsh Wren", "Proposal A")
        page.keyboard.press("5")
        page.get_by_role("table", name="Runs").get_by_role("combobox").first.wait_for()
        return page

    take(opened(), "runs")
    page = opened("dusk")
    page.keyboard.press("f")
    page.locator("article.finding").first.get_by_role("button", name="Arithmetic").click()
    take(page, "findings")


def _day(browser: Browser, server: Server) -> None:
    """The stage Day."""

    def opened(part: str, light: str = "day") -> Page:
        page = visit(browser, server, DESK, light)
        open_variant(page, "Marsh Wren", "As found")
        page.keyboard.press("6")
        page.get_by_label("Parts of Day").get_by_role("button", name=part, exact=True).click()
        return page

    page = opened("Day")
    page.get_by_role("button", name="Run the day").first.click()
    page.get_by_label("Verdict").wait_for()
    line = page.get_by_role("slider", name="Moment of the day")
    line.focus()
    for _ in range(8):
        page.keyboard.press("PageUp")
    page.locator(".content").evaluate("e => e.scrollTo(0, 0)")
    take(page, "day")


def _handover(browser: Browser, server: Server) -> None:
    """Handover: the sheet, the pack, and the drill on the owner's phone."""

    def opened(size: tuple[int, int], part: str) -> Page:
        page = visit(browser, server, size, "day")
        open_variant(page, "Marsh Wren", "As found")
        page.goto(page.url.replace("/scheme", "/handover"))
        page.get_by_role("region", name="Owner's sheet").wait_for(timeout=90_000)
        parts = page.get_by_role("navigation", name="Parts of Handover")
        parts.get_by_role("button", name=part).click()
        return page

    take(opened(DESK, "Owner's sheet"), "handover-sheet")
    take(opened(DESK, "Pack"), "handover-pack")
    page = opened(PHONE, "Drill")
    page.get_by_role("button", name="Smoke under the step").click(timeout=120_000)
    page.get_by_role("button", name="Stop the engine").click()
    page.get_by_text("The engine stops").wait_for()
    take(page, "drill-phone")


def _aboard(browser: Browser, server: Server) -> None:
    """Aboard: the phone's first screen, and a step with entries that wait for a signal."""
    page = visit(browser, server, PHONE, "day")
    page.get_by_label("Marsh Wren", exact=True).get_by_role("link", name="Proposal C").click()
    page.get_by_role("button", name=re.compile("Continue")).wait_for(timeout=90_000)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.get_by_role("button", name="Take aboard").click()
    page.get_by_text("✓ Aboard").wait_for(timeout=90_000)
    page.get_by_role("heading", name="Today aboard").scroll_into_view_if_needed()
    page.wait_for_timeout(4000)  # what was said of it is gone
    page.screenshot(path=FOLDER / "today-phone.png")
    page.context.set_offline(True)
    page.get_by_role("button", name=re.compile("Continue")).click()
    for _ in range(2):
        page.get_by_role("button", name="Step done").click()
        page.wait_for_timeout(3000)
    take(page, "outbox-phone")


if __name__ == "__main__":
    main()
