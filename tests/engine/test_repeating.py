"""Gear that opens and closes all day: rounds counted on against the same rounds followed."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.dayrun import Day, Plan, day_report, day_run, day_sheet, repeating
from strom_engine.dayrun.events import moments_of
from strom_engine.dayrun.plan import ShoreSpan
from strom_engine.design import Design

from tests.engine.boats import bare_banks, with_cables


def weakly_fed(system_v: int = 12, **converter: Any) -> Design:
    """A charger on a small start bank before a dc-dc charger that takes more than it gives."""
    scale, series = system_v / 12, system_v // 12
    draft = bare_banks(
        {"unit_ah": 800, "soc": 0.3, "series": series}, soc=1.0, unit_ah=60, series=series
    )
    draft.extra = {"system_v": system_v}
    charger = {"rated_a": 20, "set_v": 14.4 * scale, "float_v": 13.5 * scale}
    draft.part("charger", "charger", **charger)
    limits = {"limit_a": 30, "set_v": 14.4 * scale, "stop_v": 13.1 * scale} | converter
    draft.part("dcdc", "dcdc", **limits)
    draft.load("panel", 10.0)
    return with_cables(draft, ("charger.out1", "engine_bank.pos"), ("charger.neg", "bar"),
                       ("engine_bank.pos", "dcdc.in"), ("dcdc.out", "house_bank.pos"),
                       ("dcdc.neg", "bar"), ("house_bank.pos", "panel.pos"),
                       ("panel.neg", "bar"))  # fmt: skip


def lived(design: Design, hours: float = 6.0) -> Day:
    plan = Plan(name="Alongside", hours=hours, shore=(ShoreSpan(start_h=0, end_h=hours),))
    return day_run(design, None, plan)


@pytest.mark.parametrize("system_v", [12, 24])
def test_rounds_counted_on_come_to_the_same_as_rounds_followed(
    system_v: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    counted = lived(weakly_fed(system_v))
    monkeypatch.setattr(repeating, "LEAST_ROUNDS", 10**9)
    followed = lived(weakly_fed(system_v))
    starts = [len(moments_of(d.events, "dcdc", "closed")) for d in (counted, followed)]
    assert starts[1] > 1000 and not any(e.rounds for e in followed.events)
    assert starts[0] == pytest.approx(starts[1], rel=0.01)
    for bank, soc in followed.ended_soc.items():
        assert counted.ended_soc[bank] == pytest.approx(soc, abs=0.002), bank
    hours = [d.tallies.closed_h["dcdc"] for d in (counted, followed)]
    assert hours[0] == pytest.approx(hours[1], rel=0.01)
    given = [d.ledger.given["charger"].charge_ah for d in (counted, followed)]
    assert given[0] == pytest.approx(given[1], rel=0.005)
    assert max(d.ledger.residual for d in (counted, followed)) < 1e-3
    # The work is bounded: a tenth of the steps at most, and as many events as rounds followed.
    assert counted.steps < followed.steps / 5 and len(counted.events) < len(followed.events) / 5


def test_what_was_counted_on_is_shown_and_reported() -> None:
    day = lived(weakly_fed())
    sheet, report = day_sheet(day), day_report(day)
    strip = next(s for s in sheet.strips if s.part == "dcdc" and s.kind == "gear")
    assert any(p.state == "opens and closes" for p in strip.pieces)
    [one] = [g for g in report.gear if g.relay == "dcdc"]
    assert one.closures == len(moments_of(day.events, "dcdc", "closed"))
    assert one.most_an_hour > 100
    assert any("dcdc" in s.words.lower() and "an hour" in s.words for s in report.verdict)


def test_a_limit_on_what_it_takes_calms_it() -> None:
    # It takes 16 A at 13.1 V: 16 x 0.9 x 13.1 / 14.4 = 13.1 A, less than the 20 A of the charger.
    calm = lived(weakly_fed(input_limit_a=16.0))
    assert len(moments_of(calm.events, "dcdc", "closed")) <= 3
    assert max(calm.recording.source_a["dcdc"]) == pytest.approx(13.1, abs=0.01)
    weak = lived(weakly_fed())
    assert calm.ended_soc["engine_bank"] > weak.ended_soc["engine_bank"]
