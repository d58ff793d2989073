"""Fifty people at once on the demo workshop: how long each click waits.

First all of them change states on the bench, every two seconds; then they click about, every four
seconds: they read, some measure a cable anew, and some ask for what workers work out.
"""

from __future__ import annotations

import argparse
import json
import random
import statistics
import subprocess
import sys
import time
from collections import defaultdict
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from http.client import HTTPConnection
from http.cookies import SimpleCookie
from typing import Any

from tests.browser.serving import ROOT, Server, demo_database, running_server

BENCH_S, ABOUT_S = 2.0, 4.0  # between the clicks of one person
WANTED_MS = 300
PASSWORD = "a load of people"
PEOPLE = """
from apps.accounts.models import Role, User, Workshop
for n in range({count}):
    User.objects.create_user(f"load{{n}}", password="{password}",
                             workshop=Workshop.objects.first(), role=Role.ELECTRICIAN)
"""
# What people click, how often each, and whether a worker does it.
CLICKS = (
    (40, "POST", "bench", False),
    (12, "GET", "findings", False),
    (12, "GET", "runs", False),
    (10, "GET", "loads", False),
    (8, "GET", "banks", False),
    (6, "GET", "scheme", False),
    (5, "POST", "cables", False),
    (4, "POST", "positions", False),
    (1, "GET", "advice", True),
    (1, "POST", "runs/choice", True),
    (1, "POST", "repairs", True),
    (1, "GET", "handover", True),
)
Times = dict[str, list[float]]


class Person:
    """Somebody signed in."""

    def __init__(self, server: Server, number: int) -> None:
        self.random = random.Random(number)
        self._address = server.url.removeprefix("http://")
        self._cookies: dict[str, str] = {}
        self._send("GET", "/api/session")
        self._send("POST", "/api/session", {"username": f"load{number}", "password": PASSWORD})
        jobs = json.loads(self._send("GET", "/api/jobs")[1])["jobs"]
        job = jobs[number % len(jobs)]
        self.variant = job["variants"][number % len(job["variants"])]["id"]

    def _send(self, method: str, path: str, body: object = None) -> tuple[int, bytes]:
        headers = {"Cookie": "; ".join(f"{k}={v}" for k, v in self._cookies.items())}
        text = None
        if method != "GET":
            text = json.dumps(body or {})
            headers |= {"Content-Type": "application/json"}
            headers |= {"X-CSRFToken": self._cookies.get("csrftoken", "")}
        # Between clicks so much time passes that the server has closed the connection.
        with closing(HTTPConnection(self._address, timeout=120)) as connection:
            connection.request(method, path, text, headers)
            answer = connection.getresponse()
            for line in answer.headers.get_all("Set-Cookie") or ():
                self._cookies |= {k: m.value for k, m in SimpleCookie(line).items()}
            return answer.status, answer.read()

    def _other_length(self) -> dict[str, Any]:
        """A cable of the boat measured anew."""
        scheme = json.loads(self._send("GET", f"/api/variants/{self.variant}/scheme")[1])
        cable = self.random.choice(scheme["design"]["cables"])["id"]
        length_m = round(self.random.uniform(0.5, 4.0), 2)
        rows = [{"cable": cable, "fields": {"length_m": length_m}}]
        return {"base_revision": scheme["revision"], "rows": rows}

    def click(self, method: str, what: str, *, heavy: bool) -> tuple[float, float]:
        """Milliseconds of the longest request of a click, and of all of it."""
        state: dict[str, Any] = {"engine": "on", "rpm": self.random.randint(700, 3600)}
        body: dict[str, Any] = state if what in ("bench", "positions") else {}
        if what == "cables":
            body = self._other_length()
        path = f"/api/variants/{self.variant}/{what}"
        if what == "advice":
            budget = self.random.choice(("low", "middle", "free"))
            path += f"?budget={budget}"
        began, longest = time.perf_counter(), 0.0
        while True:
            start = time.perf_counter()
            status, content = self._send(method, path, body)
            longest = max(longest, time.perf_counter() - start)
            if status != 202:
                break
            time.sleep(0.3)
        if status not in (200, 409, 422):  # somebody else may have saved in between
            raise RuntimeError(f"{method} {path}: {status} {content[:200]!r}")
        return 1000 * longest, 1000 * (time.perf_counter() - began)

    def clicks(self, ends: float, *, mixed: bool) -> Times:
        """Click until a moment; times by what was clicked."""
        found: Times = defaultdict(list)
        thinks_s = ABOUT_S if mixed else BENCH_S
        time.sleep(self.random.uniform(0, thinks_s))
        while time.perf_counter() < ends:
            weights = [row[0] for row in CLICKS]
            _, method, what, heavy = self.random.choices(CLICKS, weights)[0] if mixed else CLICKS[0]
            longest, whole = self.click(method, what, heavy=heavy)
            found["request"].append(longest)
            found[what].append(whole)
            time.sleep(self.random.uniform(0.5, 1.5) * thinks_s)
        return found


def _line(label: str, found: list[float], target: str = "") -> None:
    cuts = statistics.quantiles(found, n=20)
    words = f"{len(found):5d} x   p50 {statistics.median(found):7.0f}   p95 {cuts[-1]:7.0f} ms"
    print(f"  {label:<22} {words}   {target}", flush=True)


def _round(people: list[Person], seconds: float, *, mixed: bool) -> Times:
    ends = time.perf_counter() + seconds
    every: Times = defaultdict(list)
    with ThreadPoolExecutor(len(people)) as pool:
        for found in pool.map(lambda p: p.clicks(ends, mixed=mixed), people):
            for what, times in found.items():
                every[what] += times
    return every


def main() -> None:
    """Run it."""
    parser = argparse.ArgumentParser(prog="./strom bench load", description=__doc__)
    parser.add_argument("--people", type=int, default=50)
    parser.add_argument("--seconds", type=float, default=60.0, help="of each round")
    told = parser.parse_args()
    with demo_database() as demo, running_server(demo) as server:
        code = PEOPLE.format(count=told.people, password=PASSWORD)
        manage = [sys.executable, "server/manage.py", "shell", "-v0", "-c", code]
        subprocess.run(manage, cwd=ROOT, env=server.environment, check=True)
        people = [Person(server, n) for n in range(told.people)]
        for person in people[:8]:  # what every process has read and kept after some minutes
            for _, method, what, heavy in CLICKS:
                person.click(method, what, heavy=heavy)
        wanted = f"wanted: p95 <= {WANTED_MS} ms"
        print(f"\n{told.people} people on the bench at once")
        _line("bench", _round(people, told.seconds, mixed=False)["bench"], wanted)
        print(f"{told.people} people who click about")
        every = _round(people, told.seconds, mixed=True)
        _line("every request", every.pop("request"), wanted)
        for _, _, what, heavy in CLICKS:
            if len(every[what]) > 1:
                _line(what, every[what], "by a worker" if heavy else "")


if __name__ == "__main__":
    main()
