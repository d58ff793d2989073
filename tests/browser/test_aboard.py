"""Aboard: one hand, no signal. Taken along, entered without a server, sent once, kept apart."""

from __future__ import annotations

import io
import json
import random
import re
import signal
from collections.abc import Iterator
from typing import Any

import pytest
from PIL import Image
from playwright.sync_api import Browser, BrowserContext, Page, ViewportSize, expect

from tests.browser.conftest import Watch
from tests.browser.serving import LIGHTS, Server, enter, serious

PHONE: ViewportSize = {"width": 390, "height": 844}
STAGES = {  # and what a page says once it has its answers
    "survey": "What the owner complains of",
    "loads": "mean 4.",
    "banks": "net of sun",
    "scheme": "out of banks",
    "runs": "all to the standard",
    "build": "Step done",
    "prove": "Test 1 of",
    "log": "Keep the reading",
    "handover": "Never",
}
OFFLINE = ("ERR_INTERNET_DISCONNECTED", "ERR_CONNECTION_REFUSED", "Failed to fetch")


def to_today(page: Page, job: str, variant: str) -> str:
    """From the list to the first screen of a boat on the phone; its address without the stage."""
    page.get_by_label(job, exact=True).get_by_role("link", name=variant).first.click()
    page.get_by_role("heading", name="Today aboard").wait_for()
    page.get_by_role("button", name=re.compile("Continue|Hand over")).wait_for(timeout=90_000)
    return page.url.rpartition("/")[0]


def take_aboard(page: Page) -> None:
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.get_by_role("button", name="Take aboard").click()
    expect(page.get_by_text("✓ Aboard")).to_be_visible(timeout=90_000)


def api(page: Page, path: str) -> Any:
    return json.loads(page.evaluate(f"fetch('{path}').then(r => r.text())"))


@pytest.fixture
def visitor(browser: Browser, server: Server, watch: Watch) -> Iterator[BrowserContext]:
    """A phone whose service worker is at work; asks nothing of other machines."""
    context = browser.new_context(viewport=PHONE, accept_downloads=True)
    watch.follow(context)
    yield context
    context.close()
    assert [u for u in watch.requests if not u.startswith((server.url, "data:", "blob:"))] == []
    unexpected = [c for c in watch.complaints if not any(e in c for e in watch.expected)]
    assert unexpected == []


@pytest.fixture
def phone(visitor: BrowserContext, server: Server, watch: Watch) -> Page:
    watch.expected += OFFLINE
    page = visitor.new_page()
    page.set_default_timeout(30_000)
    enter(page, server)
    return page


def test_a_boat_is_worked_on_without_a_server_and_everything_arrives_once(
    phone: Page, visitor: BrowserContext, server: Server
) -> None:
    boat = to_today(phone, "Marsh Wren", "Proposal C")
    variant = boat.rpartition("/")[2]
    before = api(phone, f"/api/variants/{variant}/build")["state"]["steps_done"]
    take_aboard(phone)
    visitor.set_offline(True)
    for stage, words in STAGES.items():  # every one is read from the device
        phone.goto(f"{boat}/{stage}")
        expect(phone.get_by_text(re.compile("Shown as computed"))).to_be_visible()
        expect(phone.get_by_role("main")).to_contain_text(words)
    phone.goto(f"{boat}/scheme")
    moment = phone.get_by_label("This moment")
    stopped = moment.inner_text()
    phone.keyboard.press("e")  # the engine, on the bench that was taken along
    expect(moment).not_to_have_text(stopped)

    phone.goto(f"{boat}/build")
    steps = phone.locator(".phase")
    first = steps.inner_text()
    for _ in range(2):
        at = steps.inner_text()
        phone.get_by_role("button", name="Step done").click()
        expect(steps).not_to_have_text(at)
    out = io.BytesIO()
    Image.new("RGB", (80, 60), (90, 40, 10)).save(out, "JPEG")
    phone.get_by_label("Photograph of this step").set_input_files(
        {"name": "lug.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}
    )
    waiting = phone.get_by_role("status", name="Not saved yet")
    expect(waiting).to_contain_text("4 entries are not saved yet")
    phone.goto(f"{boat}/prove")
    phone.get_by_role("button", name=re.compile("As it should be")).click()
    expect(waiting).to_contain_text("5 entries are not saved yet")

    phone.close()  # killed: the device still has them
    again = visitor.new_page()
    again.goto(f"{boat}/today")
    expect(again.get_by_text("◆ 5 wait here")).to_be_visible()
    expect(again.get_by_text(f"Step {int(re.findall(r'[0-9]+', first)[0]) + 2} of")).to_be_visible()
    visitor.set_offline(False)
    expect(again.get_by_text("✓ Nothing waits")).to_be_visible(timeout=60_000)
    state = api(again, f"/api/variants/{variant}/build")["state"]
    assert state["steps_done"] == before + 2 and len(state["photos"]) == 1
    proved = api(again, f"/api/variants/{variant}/prove")["states"]
    assert sum(len(s["entries"]) for s in proved.values()) == 1
    photo = state["photos"][0]["photo"]
    assert again.evaluate(f"fetch('/api/photos/{photo}').then(r => r.status)") == 200


@pytest.mark.parametrize("seed", [7])
def test_two_phones_agree_after_random_outages(
    seed: int, phone: Page, visitor: BrowserContext, browser: Browser, server: Server, watch: Watch
) -> None:
    """Notes from two phones while networks, pages and the server fail: each is there once."""
    watch.expected += ["status of 50", "ERR_", "beforeunload"]
    chance = random.Random(seed)
    boat = to_today(phone, "Marsh Wren", "Proposal C")
    second = browser.new_context(viewport=PHONE)
    pages = [phone, second.new_page()]
    enter(pages[1], server)
    pages[1].goto(f"{boat}/today")
    for page in pages:
        page.on("dialog", lambda dialog: dialog.accept())  # what waits is on the device
        take_aboard(page)
        page.goto(f"{boat}/build")
    contexts, made = [visitor, second], []
    offline = [False, False]
    for n in range(24):
        who = chance.randrange(2)
        page, what = pages[who], chance.choice(("note", "note", "note", "cut", "reload", "server"))
        if what == "cut":
            offline[who] = not offline[who]
            contexts[who].set_offline(offline[who])
        elif what == "server":
            if server.process:
                server.stop(signal.SIGKILL)
            else:
                server.start()
        elif what == "reload":
            page.reload()
        else:
            made.append(f"seed {seed}, note {n} of phone {who}")
            page.get_by_label("Note", exact=True).fill(made[-1])
            page.get_by_role("button", name="Keep the note").click()
            expect(page.get_by_label("Note", exact=True)).to_have_value("")
    if not server.process:
        server.start()
    for context, page in zip(contexts, pages, strict=True):
        context.set_offline(False)
        page.goto(f"{boat}/today")
        expect(page.get_by_text("✓ Nothing waits")).to_be_visible(timeout=60_000)
    variant = boat.rpartition("/")[2]
    kept = [api(p, f"/api/variants/{variant}/build")["state"]["notes"] for p in pages]
    assert kept[0] == kept[1]
    assert sorted(n["text"] for n in kept[0] if f"seed {seed}" in n["text"]) == sorted(made)
    second.close()


def test_a_full_device_says_so_and_still_sends(phone: Page, visitor: BrowserContext) -> None:
    boat = to_today(phone, "Ebb Tide", "Proposal A")
    take_aboard(phone)
    phone.goto(f"{boat}/build")
    note = phone.get_by_label("Note", exact=True)
    note.wait_for()
    phone.evaluate(
        """() => { IDBObjectStore.prototype.put = () => {
          throw new DOMException("The disk is full.", "QuotaExceededError"); } }"""
    )
    visitor.set_offline(True)
    note.fill("Stud of the bus is stripped.")
    phone.get_by_role("button", name="Keep the note").click()
    bar = phone.get_by_role("status", name="Not saved yet")
    expect(bar).to_contain_text("This device cannot keep entries")
    expect(bar).to_contain_text("in this page alone")
    visitor.set_offline(False)
    variant = boat.rpartition("/")[2]
    for _ in range(40):
        notes = api(phone, f"/api/variants/{variant}/build")["state"]["notes"]
        if notes:
            break
        phone.wait_for_timeout(1000)
    assert [n["text"] for n in notes] == ["Stud of the bus is stripped."]


def test_a_clash_keeps_both_and_asks(
    phone: Page, visitor: BrowserContext, browser: Browser, server: Server, watch: Watch
) -> None:
    watch.expected += ["409"]
    boat = to_today(phone, "Pilot 3", "As found")
    job = boat.split("/")[-2]
    take_aboard(phone)
    phone.goto(f"{boat}/survey")
    phone.get_by_role("button", name="Boat", exact=True).click()
    length = phone.get_by_label(re.compile("^Length")).first
    length.wait_for()
    visitor.set_offline(True)
    length.fill("9.1")
    length.press("Tab")
    waiting = phone.get_by_role("status", name="Not saved yet")
    expect(waiting).to_contain_text("1 entry is not saved yet")
    other = browser.new_context()  # another device, on the same field meanwhile
    desk = other.new_page()
    enter(desk, server)
    survey = api(desk, f"/api/jobs/{job}/survey")
    sent = desk.evaluate(
        """async ([job, base]) => {
          const token = document.cookie.match(/csrftoken=([^;]+)/)[1];
          const headers = { "Content-Type": "application/json", "X-CSRFToken": token };
          const change = { type: "set_section", section: "boat", fields: { length_m: 9.3 } };
          const body = JSON.stringify({ base_revision: base, change });
          const path = `/api/jobs/${job}/survey/changes`;
          return (await fetch(path, { method: "POST", headers, body })).status; }""",
        [job, survey["revision"]],
    )
    assert sent == 200
    visitor.set_offline(False)
    expect(phone.get_by_role("dialog")).to_contain_text("kept as version", timeout=60_000)
    assert api(desk, f"/api/jobs/{job}/survey")["survey"]["boat"]["length_m"] == 9.3
    words = [r["kind"] for r in api(desk, f"/api/jobs/{job}/survey/revisions")]
    assert words.count("aside") == 1, "both are kept"
    other.close()


def test_the_program_is_installable_and_what_is_aboard_goes_with_who_signs_out(
    phone: Page, visitor: BrowserContext, server: Server
) -> None:
    boat = to_today(phone, "Ebb Tide", "As found")
    take_aboard(phone)
    href = phone.locator('link[rel="manifest"]').get_attribute("href")
    manifest = api(phone, str(href))
    assert (manifest["display"], manifest["start_url"]) == ("standalone", "/")
    for icon in manifest["icons"]:
        found = visitor.request.get(f"{server.url}{icon['src']}")
        side = int(icon["sizes"].partition("x")[0])
        assert Image.open(io.BytesIO(found.body())).size == (side, side)
    worker = visitor.request.get(f"{server.url}/sw.js")
    assert worker.headers["cache-control"] == "no-cache"
    kept = """async () => {
      const db = await new Promise((go) => {
        const open = indexedDB.open("strom"); open.onsuccess = () => go(open.result); });
      const count = (name) => new Promise((go) => {
        const asked = db.transaction(name).objectStore(name).count();
        asked.onsuccess = () => go(asked.result); });
      return [await count("answers"), await count("taken")]; }"""
    answers, boats = phone.evaluate(kept)
    assert answers > 30 and boats == 1
    visitor.set_offline(True)
    phone.goto(f"{boat}/runs")
    expect(phone.get_by_text(re.compile("Shown as computed"))).to_be_visible()
    visitor.set_offline(False)
    phone.goto(server.url)
    phone.get_by_role("button", name="Account menu").click()
    phone.get_by_text("Sign out").click()
    phone.get_by_role("button", name="Enter the demo workshop").wait_for()
    assert phone.evaluate(kept) == [0, 0]


def test_thumbs_hit_what_they_aim_at_in_every_light(phone: Page) -> None:
    boat = to_today(phone, "Marsh Wren", "Proposal C")
    small = """() => [...document.querySelectorAll(
        "main button, main a.v-btn, main label input, main select, main input:not([type=range])")]
      .map((e) => [e, (e.closest("label") ?? e).getBoundingClientRect()])
      .filter(([, box]) => box.height > 0 && box.height < 47.5)
      .map(([e, box]) => `${e.textContent || e.getAttribute("aria-label")} ${box.height}`)"""
    wide = """() => [...document.querySelectorAll("main *")]
      .filter((e) => !e.closest("nav") && e.getBoundingClientRect().right > innerWidth + 1)
      .map((e) => e.textContent)"""
    action = re.compile("Continue|Step done|As it should")
    for stage in ("survey", "loads", "runs", "log", "handover"):
        phone.goto(f"{boat}/{stage}")
        expect(phone.get_by_role("main")).to_contain_text(STAGES[stage], timeout=60_000)
        assert phone.evaluate(small) == [], stage
    for stage in ("today", "build", "prove"):
        phone.goto(f"{boat}/{stage}")
        phone.get_by_role(
            "button", name=re.compile("Continue|Step done|As it should")
        ).first.wait_for(timeout=60_000)
        assert phone.evaluate(small) == [], stage
        assert phone.evaluate(wide) == [], f"{stage} goes sideways"
        for light in LIGHTS:
            phone.evaluate(f"localStorage.setItem('strom.light', '{light}')")
            phone.reload()
            phone.get_by_role("button", name=action).first.wait_for(timeout=60_000)
            assert serious(phone) == [], f"{stage} {light}"
