"""One browser for the run, a fresh demo for each file, a new visitor, watched, for each test."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, expect

from tests.browser.serving import Server, demo_database, enter, running_browser, running_server

PATIENCE_MS = 20_000  # machines that run tests are busy; nothing is decided by this
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def demo() -> Iterator[str]:
    with demo_database() as name:
        yield name


@pytest.fixture(scope="module")
def server(demo: str) -> Iterator[Server]:
    """No journey meets what those of another file have left."""
    with running_server(demo) as server:
        yield server


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with running_browser() as browser:
        yield browser


# What the browser says of service workers that a journey has switched off.
BLOCKED = "Service Worker registration blocked"


class Watch:
    """What a visitor's pages asked for and complained about."""

    def __init__(self) -> None:
        self.requests: list[str] = []
        self.complaints: list[str] = []
        self.expected: list[str] = []

    def follow(self, context: BrowserContext) -> None:
        context.on("request", lambda request: self.requests.append(request.url))
        context.on("weberror", lambda error: self.complaints.append(str(error.error)))
        context.on("console", self._told)

    def _told(self, message: ConsoleMessage) -> None:
        if message.type in ("error", "warning") and BLOCKED not in message.text:
            self.complaints.append(message.text)


@pytest.fixture
def watch() -> Watch:
    return Watch()


@pytest.fixture
def visitor(browser: Browser, server: Server, watch: Watch) -> Iterator[BrowserContext]:
    """A visitor at 1280 x 800; asks nothing of other machines, and nothing goes wrong."""
    # What is kept on the device is tried in journeys of its own: here every page is the server's.
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, accept_downloads=True, service_workers="block"
    )
    watch.follow(context)
    yield context
    context.close()
    foreign = [u for u in watch.requests if not u.startswith((server.url, "data:", "blob:"))]
    assert foreign == []
    unexpected = [c for c in watch.complaints if not any(e in c for e in watch.expected)]
    assert unexpected == []


@pytest.fixture
def page(visitor: BrowserContext, server: Server) -> Page:
    """A visitor in the demo workshop, before the list of jobs."""
    page = visitor.new_page()
    page.set_default_timeout(PATIENCE_MS)
    enter(page, server)
    return page
