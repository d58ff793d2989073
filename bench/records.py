"""What records of monitors tell: sound boats accused, faults found, rows read, seasons analysed."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator
from dataclasses import dataclass

from strom_engine.dayrun import Plan, SchoolId, day_run, ready_plans, with_school
from strom_engine.design import Bank
from strom_engine.errors import StromError
from strom_engine.faults import Effects, effects_of
from strom_engine.interchange import JobFile
from strom_engine.interchange.record_layout import guess_layout
from strom_engine.interchange.record_rows import RowReader, in_order
from strom_engine.prove import Today, boats_drawn
from strom_engine.records import HeldAgainst, Monitor, Shunted, Trace, held_against, recorded
from strom_engine.records.causes import suspects
from strom_engine.sizing.solar import DEFAULT_LATITUDE_DEG, month_of
from strom_engine.survey import Survey, SurveyedDesign, surveyed

__all__ = ["print_reading", "print_records"]

BEGINS_S = 1735689600.0  # 2025-01-01 00:00 UTC
MONTH_S = 30.44 * 86400
SHUNT = Shunted("house_bank", driven="engine")
KEPT_KINDS = ("stuck_open", "standing_draw", "source_limited", "source_fading", "lost_capacity",
              "set_low", "added_resistance", "source_dead")  # fmt: skip


@dataclass(frozen=True)
class Boat:
    """A variant of a demo job with a plan, and how it is handled."""

    name: str
    design: SurveyedDesign
    survey: Survey
    plan: Plan
    school: SchoolId


def boats_of(jobs: dict[str, JobFile]) -> Iterator[Boat]:
    """Every variant with a house bank, on a passage handled by its first school that fits."""
    for job in jobs.values():
        for variant in job.variants:
            design = surveyed(variant.design, job.survey)
            if not isinstance(design.by_id.get(SHUNT.bank), Bank):
                continue
            ready = next(r.plan for r in ready_plans(design) if r.id == "passage")
            month = month_of(
                job.survey.use.season, job.survey.boat.latitude_deg or DEFAULT_LATITUDE_DEG
            )
            plan = with_school(ready.model_copy(update={"month": month}), design, "c")
            yield Boat(f"{job.name}, {variant.name}", design, job.survey, plan, "c")


def _recorded(boat: Boat, key: str | None, every_s: float, seed: int) -> Trace | None:
    """What a monitor writes on a boat drawn from what is not known, with a fault."""
    true = boats_drawn(boat.design, Today(), 1, seed)[0].design
    effects: Effects = effects_of(true)
    if key is not None:
        found = {s.key: s for s in suspects(true, SHUNT.of(true), SHUNT.driven)}
        effects = found[key].effects[-1]
    try:
        day = day_run(true, boat.survey, boat.plan, effects)
    except StromError:
        return None
    begins = BEGINS_S + ((boat.plan.month or 1) - 1) * MONTH_S
    begins = begins - begins % 86400 + boat.plan.clock_h * 3600
    return recorded(day, SHUNT.of(boat.design), Monitor(every_s=every_s), begins, seed)


def _held(boat: Boat, trace: Trace) -> HeldAgainst:
    return held_against(boat.design, boat.survey, trace, SHUNT, boat.school)


def print_records(jobs: dict[str, JobFile], every_s: float, with_faults: bool = True) -> None:
    """Print how many sound boats are accused, and how often the right cause is first.

    Args:
        jobs: of the demo.
        every_s: between two rows [s].
        with_faults: whether single faults are played too; takes minutes.
    """
    accused = sound = seen = first = among = played = 0
    seconds = []
    for n, boat in enumerate(boats_of(jobs)):
        for seed in (n, n + 100):
            trace = _recorded(boat, None, every_s, seed)
            if trace is None:
                continue
            began = time.perf_counter()
            held = _held(boat, trace)
            seconds.append(time.perf_counter() - began)
            sound += 1
            accused += bool(held.findings)
        if not with_faults:
            continue
        for suspect in suspects(boat.design, SHUNT.of(boat.design), SHUNT.driven):
            trace = _recorded(boat, suspect.key, every_s, n)
            if trace is None or suspect.kind not in KEPT_KINDS:
                continue
            played += 1
            held = _held(boat, trace)
            if held.findings:
                seen += 1
                first += bool(held.causes) and suspect.key in held.causes[0].faults
                among += any(suspect.key in c.faults for c in held.causes[:3])
    print(f"  rows every {every_s:g} s: {accused} of {sound} sound boats accused, wanted: <= 3 %")
    print(f"    held against the boat: median {statistics.median(seconds):.1f} s")
    if played:
        print(
            f"    {seen} of {played} single faults show in the house bank's records; right cause "
            f"first {first / max(seen, 1):.0%}, among three {among / max(seen, 1):.0%}, "
            "wanted: >= 85 % first"
        )


def print_reading(rows: int = 1_000_000) -> None:
    """Print how long a file of so many rows takes to be read."""
    lines = ["time,volts [V],amps [A],soc [%]\n"]
    for n in range(rows):
        volts, amps, charge = 12 + n % 200 / 100, n % 60 - 20, 100 - n % 30
        lines.append(f"{BEGINS_S + n:.0f},{volts},{amps}.5,{charge}\n")
    layout = guess_layout("".join(lines[:400])).layout
    began = time.perf_counter()
    trace, _ = in_order(list(RowReader(layout).pieces(lines)))
    took = time.perf_counter() - began
    print(f"records: {len(trace):,} rows read in {took:.0f} s, wanted: <= 30 s")
