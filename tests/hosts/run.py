"""Several hosts on one database, one web host and one worker host lost: ``./strom hosts``."""

from __future__ import annotations

import json
import os
import sys
import time
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from http.cookies import SimpleCookie
from typing import Any
from uuid import uuid4

from tests.browser.serving import demo_database, web_command
from tests.hosts.network import DATABASE, Host, bridge, relay

PORT = 8000
STARTS_S = 60.0
# A worker is dead after 30 s of silence; somebody looks every minute.
TAKEN_UP_S = 240.0


class Visitor:
    """A browser: one session, whatever host it asks, as if one name stood in front of them."""

    def __init__(self) -> None:
        self.cookies: dict[str, str] = {}

    def ask(self, host: Host, method: str, path: str, body: Any = None, **headers: str) -> Any:
        """One request to one host; JSON in and out."""
        request = urllib.request.Request(
            f"http://{host.address}:{PORT}{path}",
            method=method,
            data=None if body is None else json.dumps(body).encode(),
            headers={
                "Content-Type": "application/json",
                "X-CSRFToken": self.cookies.get("csrftoken", ""),
                "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
                **headers,
            },
        )
        with urllib.request.urlopen(request, timeout=60) as answer:
            for told in answer.headers.get_all("Set-Cookie") or ():
                self.cookies |= {name: one.value for name, one in SimpleCookie(told).items()}
            text = answer.read()
        return json.loads(text) if text else None


def web(host: Host) -> None:
    """Serve on a host, and wait until it answers."""
    host.run(*web_command(f"{host.address}:{PORT}", workers=1))
    ends = time.monotonic() + STARTS_S
    while True:
        try:
            urllib.request.urlopen(f"http://{host.address}:{PORT}/api/health", timeout=5).close()
            return
        except OSError:
            if time.monotonic() > ends:
                raise
            time.sleep(0.5)


def one_session_and_one_write(visitor: Visitor, first: Host, second: Host) -> dict[str, Any]:
    """A session of one host is one of the other, and a write sent to both is done once."""
    visitor.ask(first, "GET", "/api/session")
    visitor.ask(first, "POST", "/api/session/demo", {})
    jobs = visitor.ask(second, "GET", "/api/jobs")["jobs"]
    job = next(job for job in jobs if job["name"] == "Marsh Wren")
    variant = job["variants"][0]["id"]
    key = {"Idempotency-Key": str(uuid4())}
    body = {"name": "Copied once"}
    with ThreadPoolExecutor(2) as both:
        answers = list(
            both.map(
                lambda host: visitor.ask(
                    host, "POST", f"/api/variants/{variant}/copy", body, **key
                ),
                (first, second),
            )
        )
    assert answers[0]["variant"] == answers[1]["variant"], "a write was done twice"
    named = [v["name"] for v in visitor.ask(second, "GET", f"/api/jobs/{job['id']}")["variants"]]
    assert named.count("Copied once") == 1
    print("one session on both web hosts; a write sent to both was done once", flush=True)
    return job


def a_worker_is_lost(visitor: Visitor, host: Host, lost: Host, job: dict[str, Any]) -> None:
    """A sweep goes on after one of two worker hosts has gone in the middle of it."""
    variant = job["variants"][0]["id"]
    plan = visitor.ask(host, "GET", f"/api/variants/{variant}/plans")["plans"][0]["id"]
    study = visitor.ask(host, "POST", f"/api/variants/{variant}/plans/{plan}/sweep", {})
    path = f"/api/studies/{study['id']}"
    while visitor.ask(host, "GET", path)["done"] < 4:
        time.sleep(0.2)
    lost.lose()
    began = time.monotonic()
    while (now := visitor.ask(host, "GET", path))["status"] not in ("done", "failed"):
        assert time.monotonic() - began < TAKEN_UP_S, f"still {now['done']} of {now['of']}"
        time.sleep(1)
    assert now["status"] == "done" and now["done"] == now["of"], now
    seconds = time.monotonic() - began
    print(f"a worker host lost: all {now['of']} days done {seconds:.0f} s later", flush=True)


def a_web_host_is_lost(visitor: Visitor, lost: Host, other: Host) -> None:
    """Who was signed in goes on at the other host."""
    lost.lose()
    assert visitor.ask(other, "GET", "/api/session")["signed_in"]
    visitor.ask(other, "POST", "/api/jobs", BOAT)
    try:
        visitor.ask(lost, "GET", "/api/session")
    except OSError:
        print("a web host lost: the other one goes on, nobody signs in anew", flush=True)
    else:
        raise AssertionError("the lost host still answers")


BOAT = {"name": "Tern", "kind": "cruising_yacht", "switching": "selector"}


def main() -> None:
    """Build the network, run it, take it down."""
    with demo_database() as name, bridge(), ExitStack() as stack:
        cluster = os.environ["STROM_DATABASE_URL"].rsplit("/", 1)[0]
        account, port = cluster.rsplit(":", 1)
        url = f"{account.rsplit('@', 1)[0]}@{DATABASE}:{port}/{name}"
        stack.enter_context(relay(int(port)))
        environment = os.environ | {"STROM_DATABASE_URL": url, "STROM_ALLOWED_HOSTS": "*"}

        def host(kind: str, number: int) -> Host:
            made = Host(kind, number, environment)
            stack.callback(made.remove)
            return made

        web_1, web_2 = host("web-1", 11), host("web-2", 12)
        work_1, work_2 = host("work-1", 21), host("work-2", 22)
        for one in (web_1, web_2):
            web(one)
        for one in (work_1, work_2):
            one.run(sys.executable, "server/manage.py", "day_worker")
        visitor = Visitor()
        job = one_session_and_one_write(visitor, web_1, web_2)
        a_worker_is_lost(visitor, web_2, work_1, job)
        a_web_host_is_lost(visitor, web_1, web_2)


if __name__ == "__main__":
    main()
