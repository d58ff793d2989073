"""The real server on a database of its own, and Debian's Chromium."""

from __future__ import annotations

import os
import re
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import psycopg
from playwright.sync_api import Browser, Page, sync_playwright

ROOT = Path(__file__).parents[2]
CHROMIUM_FLAGS = (
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
)
WORKERS = 2
AXE = ROOT / "frontend/node_modules/axe-core/axe.min.js"
LIGHTS = ("day", "dusk", "night")


def web_command(bind: str, workers: int) -> list[str]:
    """The command that serves at an address."""
    command = [sys.executable, "-m", "gunicorn", "config.wsgi", "--chdir", "server"]
    command += ["--bind", bind, "--workers", str(workers), "--threads", "4"]
    command += ["--worker-class", "gthread", "--no-control-socket", "--log-level", "critical"]
    return [*command, "--preload"]  # the program is read once for all of them


@dataclass
class Server:
    """A running server: where it answers, and how to stop and start it."""

    url: str
    environment: dict[str, str]
    process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start it and wait until it answers."""
        command = web_command(self.url.removeprefix("http://"), WORKERS)
        self.process = subprocess.Popen(
            command, cwd=ROOT, env=self.environment, start_new_session=True
        )
        for _ in range(150):
            try:
                urllib.request.urlopen(f"{self.url}/api/session", timeout=2).close()
                return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server does not answer")

    def stop(self, how: int = 15) -> None:
        """Stop it with a signal to all of its processes."""
        if self.process is not None:
            os.killpg(self.process.pid, how)
            self.process.wait(20)
            self.process = None


def free_port() -> int:
    """A port that nothing listens on."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def _worker(environment: dict[str, str]) -> subprocess.Popen[bytes]:
    """A worker of the queue."""
    command = [sys.executable, "server/manage.py", "day_worker"]
    quiet = subprocess.DEVNULL
    return subprocess.Popen(command, cwd=ROOT, env=environment, stdout=quiet, stderr=quiet)


def _meter(environment: dict[str, str], port: int) -> subprocess.Popen[bytes]:
    """The simulated meter of the demo, with its hidden faults."""
    arguments = "@server/apps/jobs/demo_data/meter.args"
    command = [sys.executable, "-m", "strom_meter", arguments, "--port", str(port)]
    return subprocess.Popen(command, cwd=ROOT, env=environment)


@contextmanager
def _database(name: str, template: str = "template1") -> Iterator[str]:
    """A new database, a copy of another one; its address. It is gone afterwards."""
    cluster = os.environ["STROM_DATABASE_URL"].rsplit("/", 1)[0]
    with psycopg.connect(f"{cluster}/postgres", autocommit=True) as db:
        db.execute(f'CREATE DATABASE "{name}" TEMPLATE "{template}"')
        try:
            yield f"{cluster}/{name}"
        finally:
            db.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


@contextmanager
def demo_database() -> Iterator[str]:
    """A database with the demo workshop, to be copied; its name."""
    name = f"browser_{os.getpid()}"
    with _database(name) as url:
        subprocess.run(
            [sys.executable, "server/manage.py", "load_demo"],
            cwd=ROOT,
            env=os.environ | {"STROM_DATABASE_URL": url, "STROM_DEMO": "1"},
            check=True,
            stdout=subprocess.DEVNULL,
        )
        yield name


@contextmanager
def running_server(demo: str) -> Iterator[Server]:
    """A server with its workers on a copy of the demo database, all gone afterwards."""
    meter_port = free_port()
    with _database(f"{demo}_copy", demo) as url:
        environment = os.environ | {
            "STROM_DATABASE_URL": url,
            "STROM_DEMO": "1",
            "STROM_METER_URL": f"http://127.0.0.1:{meter_port}",
            "STROM_METER_TOKEN": "the meter's",
        }
        server = Server(f"http://127.0.0.1:{free_port()}", environment)
        workers = [_worker(environment) for _ in range(WORKERS)]
        try:
            workers.append(_meter(environment, meter_port))
            server.start()
            yield server
        finally:
            server.stop()
            for worker in workers:
                worker.kill()
                worker.wait(20)


@contextmanager
def running_browser() -> Iterator[Browser]:
    """Debian's Chromium."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=list(CHROMIUM_FLAGS)
        )
        yield browser
        browser.close()


def enter(page: Page, server: Server) -> None:
    """Enter the demo workshop."""
    page.goto(server.url)
    page.get_by_role("button", name="Enter the demo workshop").click()
    page.get_by_role("heading", name="Jobs").wait_for()


def open_variant(page: Page, job: str, variant: str) -> None:
    """From the list of jobs to a variant's scheme, solved and drawn."""
    page.get_by_label(job, exact=True).get_by_role("link", name=variant).first.click()
    page.wait_for_url(re.compile("/(scheme|today)$"))
    if page.url.endswith("/today"):  # where a phone begins
        page.goto(page.url.replace("/today", "/scheme"))
    page.locator("[data-part]").first.wait_for()
    page.get_by_label("This moment").wait_for()


def serious(page: Page) -> list[str]:
    """Serious violations that axe-core finds on the page as it stands."""
    page.evaluate(AXE.read_text())  # past the policy of the page, as a tool may
    found = page.evaluate("axe.run({ resultTypes: ['violations'] })")
    return [
        f"{v['id']}: {node['target']} {node['failureSummary']}"
        for v in found["violations"]
        if v["impact"] in ("serious", "critical")
        for node in v["nodes"][:3]
    ]
