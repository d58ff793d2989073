"""./strom fuzz [CALLS] [SEED]: attack the server with odd calls and count what it could not answer.

Half of the calls are seeds of our own made odd, half come from schemathesis, which makes them from
the API's own description. Everything runs in one process against a database of its own.
"""

from __future__ import annotations

import json
import os
import random
import sys
import time
import traceback
import warnings
from collections import Counter
from collections.abc import Iterator
from typing import Any

import django
from django.test.utils import get_runner

CALLS, SEED = 20_000, 1
NEW_BOAT_EVERY = 400


class Tally:
    """Calls by status, failures by where they came from, the slowest calls."""

    def __init__(self) -> None:
        self.statuses: Counter[int] = Counter()
        self.failures: dict[str, tuple[int, str]] = {}
        self.slow: list[tuple[float, str]] = []
        self.last: BaseException | None = None

    def caught(self, sender: Any, request: Any, **more: Any) -> None:
        """Keep what a view threw."""
        self.last = sys.exc_info()[1]

    def count(self, status: int, seconds: float, told: str) -> None:
        """One call more."""
        self.statuses[status] += 1
        self.slow = sorted([*self.slow, (seconds, told[:150])], reverse=True)[:5]
        if status >= 500:
            where = _where(self.last)
            before, example = self.failures.get(where, (0, told[:700]))
            self.failures[where] = (before + 1, example)
        self.last = None


def _where(error: BaseException | None) -> str:
    if error is None:
        return "no exception was seen"
    frames = traceback.extract_tb(error.__traceback__)
    own = [f for f in frames if "site-packages" not in f.filename][-1:] or frames[-1:]
    at = ", ".join(f"{f.filename.split('/main/')[-1]}:{f.lineno}" for f in own)
    return f"{type(error).__name__}: {str(error)[:90]!r} at {at}"


def _boat(person: Any, client: Any, rng: random.Random) -> Any:
    from apps.accounts.permissions import Writer
    from apps.days.actions import new_plan
    from apps.jobs.actions import import_job
    from strom_engine.interchange import parse_job_text

    from fuzz.calls import DEMO, Boat

    file = DEMO / rng.choice(("pilot_3.json", "marsh_wren.json", "ebb_tide.json"))
    job = import_job(person.workshop, Writer(person), parse_job_text(file.read_bytes()))
    variant, other = list(job.variants.all())[:2]
    plan = new_plan(variant, "day_trip", None, "a")
    photo = job.photos.create(caption="", width=4, height=3, image=b"picture")
    found = client.get(f"/api/variants/{variant.pk}/findings").json()["findings"]
    answer = client.post(
        f"/api/variants/{variant.pk}/plans/{plan.pk}/day", {}, content_type="application/json"
    )
    raw = json.loads(file.read_text())
    ids = {
        "job_id": job.pk, "variant_id": variant.pk, "other_id": other.pk, "plan_id": plan.pk,
        "photo_id": photo.pk, "study_id": answer.json()["id"], "waiver_id": plan.pk,
    }  # fmt: skip
    return Boat(
        ids={name: str(value) for name, value in ids.items()},
        design=raw["variants"][0]["design"],
        survey=raw["survey"],
        keys=[f["key"] for f in found],
    )


def work(tally: Tally, told: str) -> None:
    """Do what a call has put into the queue, as a worker would; a failure counts as a 500."""
    from apps.jobs.queue import Status
    from apps.prints.models import Print
    from apps.prints.work import FAILED_WORDS, make_print

    for one in Print.objects.filter(status=Status.WAITING):
        began = time.monotonic()
        make_print(str(one.pk))
        one.refresh_from_db()
        status = 500 if one.problem == FAILED_WORDS else 200
        tally.count(status, time.monotonic() - began, f"worker, {one.kind}: {told}")


def own_calls(person: Any, client: Any, count: int, seed: int, tally: Tally) -> None:
    """Seeds of our own, made odd."""
    from fuzz.calls import odd_call

    rng, boat = random.Random(seed), None
    for n in range(count):
        if n % NEW_BOAT_EVERY == 0:
            boat = _boat(person, client, rng)
        call = odd_call(boat, rng)
        began = time.monotonic()
        response = client.generic(call.method.upper(), call.path, call.body, content_type=call.kind)
        told = f"{call.method} {call.path} {call.body[:600]!r}"
        tally.count(response.status_code, time.monotonic() - began, told)
        if response.status_code == 202:
            work(tally, told)
        if response.status_code == 200 and response.headers["Content-Type"] == "application/json":
            answer = response.json()
            if isinstance(answer, dict) and "can_undo" in answer and "design" in answer:
                boat.revision, boat.design = answer["revision"], answer["design"]
        if n % 500 == 499:
            print(
                f"  {n + 1} calls, {sum(c for c, _ in tally.failures.values())} failed", flush=True
            )


def described_calls(person: Any, client: Any, count: int, seed: int, tally: Tally) -> None:
    """Calls that schemathesis makes from the API's description."""
    import hypothesis
    import schemathesis
    from config.api import api

    from fuzz.calls import SPARED

    boat = _boat(person, client, random.Random(seed))
    schema = schemathesis.openapi.from_dict(json.loads(json.dumps(api.get_openapi_schema())))
    operations = [found.ok() for found in schema.get_all_operations()]
    operations = [o for o in operations if (o.method.lower(), o.path) not in SPARED]
    each = max(1, count // len(operations))
    for operation in operations:
        made: Iterator[Any] = operation.as_strategy()  # type: ignore[assignment]

        @hypothesis.seed(seed)
        @hypothesis.settings(
            max_examples=each,
            deadline=None,
            database=None,
            phases=[hypothesis.Phase.generate],
            suppress_health_check=list(hypothesis.HealthCheck),
        )
        @hypothesis.given(made)
        def once(case: Any) -> None:
            path = operation.path  # noqa: B023 (called before the next one)
            for name, value in (case.path_parameters or {}).items():
                path = path.replace("{" + name + "}", boat.ids.get(name, str(value)))
            query = {k: str(v) for k, v in (case.query or {}).items()}
            body, kind = case.body, case.media_type or "application/json"
            raw = body if isinstance(body, bytes) else json.dumps(body, default=str).encode()
            began = time.monotonic()
            response = client.generic(
                case.method.upper(),
                "/" + path.lstrip("/").replace("\x00", "%00"),
                raw,
                content_type=kind,
                query_params=query,
            )
            told = f"{case.method} {path} {query} {raw[:600]!r}"
            tally.count(response.status_code, time.monotonic() - began, told)
            if response.status_code == 202:
                work(tally, told)

        once()


def main() -> int:
    """Run it, and print what came of it; 1 when anything was answered 5xx."""
    calls = int(sys.argv[1]) if len(sys.argv) > 1 else CALLS
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else SEED
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    warnings.simplefilter("ignore")
    django.setup()
    from apps.accounts import limits
    from apps.accounts.models import User, Workshop
    from django.conf import settings
    from django.core.signals import got_request_exception
    from django.test import Client

    limits.MOST_REQUESTS = calls + 1  # an attack asks more than a person may
    runner = get_runner(settings)(verbosity=0, interactive=False)
    runner.setup_test_environment()
    databases = runner.setup_databases()
    tally = Tally()
    try:
        workshop = Workshop.objects.create(name="Workshop under attack")
        person = User.objects.create_user(
            "anna", password="pass-1234", workshop=workshop, role="owner"
        )
        client = Client(raise_request_exception=False)
        client.force_login(person)
        got_request_exception.connect(tally.caught)
        _hear_of_failures(tally)
        own_calls(person, client, calls // 2, seed, tally)
        described_calls(person, client, calls - calls // 2, seed, tally)
    finally:
        runner.teardown_databases(databases)
    _print(tally)
    return 1 if tally.failures else 0


def _hear_of_failures(tally: Tally) -> None:
    """What the API answers as a problem is not thrown further: hear of it where it is noted."""
    import logging

    class Ear(logging.Handler):
        def emit(self, record: logging.LogRecord) -> None:
            if record.exc_info and record.exc_info[1]:
                tally.last = record.exc_info[1]

    logging.getLogger().handlers = [Ear()]
    logging.getLogger("django.request").handlers = []
    logging.getLogger("django").handlers = []


def _print(tally: Tally) -> None:
    total = sum(tally.statuses.values())
    print(f"{total} calls:", ", ".join(f"{s}: {n}" for s, n in sorted(tally.statuses.items())))
    for seconds, told in tally.slow:
        print(f"  slow: {seconds:.1f} s  {told}")
    for where, (count, example) in sorted(tally.failures.items(), key=lambda f: -f[1][0]):
        print(f"FAILED {count} x  {where}\n    {example}")
    print("answers 5xx:", sum(n for s, n in tally.statuses.items() if s >= 500))


if __name__ == "__main__":
    sys.exit(main())
