"""CH-10: set, float and equalising voltages, temperature, and the amps of all that charges."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.circuit.held import compensation_v, held
from strom_engine.design import Charger, Design, apply_change
from strom_engine.rules import Finding, findings

from bench.designs import Draft
from tests.engine.boats import bare_banks

AGM = {"chemistry": "agm", "temperature_c": 25, "unit_ah": 200}
LFP = {"chemistry": "lfp", "temperature_c": 25, "unit_ah": 200}
FLOODED = {"chemistry": "flooded_deep", "temperature_c": 25, "unit_ah": 200}
HOT = {"places": [{"id": "hold", "name": "Hold", "engine_space": True}]}


def charged(house: dict[str, Any], extra: dict[str, Any] | None = None, **charger: Any) -> Design:
    """A charger on a house bank of 200 Ah, set as AGM wants it or as told."""
    draft: Draft = bare_banks(house)
    plain = {"rated_a": 40, "set_v": 14.5, "float_v": 13.6}
    draft.part("charger", "charger", **(plain | charger))
    draft.cable("charger.out1", "house_bank.pos", "6 AWG")
    draft.cable("charger.neg", "bar.s9", "6 AWG")
    draft.extra = extra or {}
    return draft.design()


def told(design: Design) -> list[Finding]:
    return [f for f in findings(design) if f.rule == "CH-10"]


@pytest.mark.parametrize(
    ("design", "severity", "words"),
    [
        (charged(AGM), None, ""),
        # AGM floats at 13.6 V: 0.3 V above and 0.5 V below are let pass, the limits themselves too
        (charged(AGM, float_v=13.9), None, ""),
        (charged(AGM, float_v=13.91), "caution", "floats too high"),
        (charged(AGM, float_v=13.1), None, ""),
        (charged(AGM, float_v=13.09), "caution", "floats too low"),
        # sealed is never equalised; flooded at 15.8 V
        (charged(AGM, equalise_v=15.5), "fault", "1.00 V above its absorption"),
        (charged(FLOODED, set_v=14.6, equalise_v=16.1), None, ""),
        (charged(FLOODED, set_v=14.6, equalise_v=16.2), "fault", "equalised at 15.8 V"),
        # at 3 degC AGM wants 14.5 + 22 x 0.024 = 15.03 V; from 4.2 degC on 0.5 V are let pass
        (charged(AGM | {"temperature_c": 4.2}), None, ""),
        (charged(AGM | {"temperature_c": 3}), "caution", "at 3 °C 15.03 V"),
        (charged(AGM | {"temperature_c": 3}, temperature_sensor="house_bank"), None, ""),
        # beside an engine at 45 degC: 14.5 - 20 x 0.024 = 14.02 V
        (charged(AGM | {"place": "hold"}, HOT), "caution", "at 45 °C 14.02 V"),
        (charged(AGM | {"place": "hold"}, HOT, temperature_sensor="house_bank"), None, ""),
        # half of what AGM asks for leaves 0.24 V, which is let pass
        (charged(AGM | {"place": "hold"}, HOT, temperature_sensor="house_bank",
                 tempco_mv_per_k=-12), None, ""),
        (charged(LFP, set_v=14.2, float_v=13.5, temperature_sensor="house_bank",
                 tempco_mv_per_k=-24), "caution", "+0.48 V at 5 °C"),
        # 0.35 x 200 Ah = 70 A for AGM, 0.20 for flooded, 0.50 for lithium
        (charged(AGM, rated_a=70), None, ""),
        (charged(AGM, rated_a=71), "caution", "0.35 x 200 Ah = 70 A"),
        (charged(FLOODED, set_v=14.6, rated_a=41), "note", "= 40 A"),
        (charged(LFP, set_v=14.2, float_v=13.5, rated_a=101), "fault", "= 100 A"),
    ],
)  # fmt: skip
def test_what_a_charger_is_set_to(design: Design, severity: str | None, words: str) -> None:
    found = told(design)
    assert [f.severity for f in found] == ([severity] if severity else [])
    for finding in found:
        assert words in finding.title + " ".join(finding.arithmetic)
        if finding.change is not None:
            assert finding.key not in {f.key for f in told(apply_change(design, finding.change))}


def test_a_sensor_on_another_bank_moves_by_that_ones_temperature() -> None:
    # The start bank at 45 degC takes 20 x 0.024 = 0.48 V off; the house bank at 5 degC wants
    # 14.98 V and gets 14.02 V: 0.96 V too little, not the nothing of a sensor of its own.
    cold = AGM | {"temperature_c": 5}
    draft = bare_banks(cold, chemistry="agm", temperature_c=45)
    fields = {"rated_a": 40, "set_v": 14.5, "float_v": 13.6}
    draft.part("charger", "charger", temperature_sensor="engine_bank", **fields)
    draft.cable("charger.out1", "house_bank.pos", "6 AWG")
    draft.cable("charger.neg", "bar.s9", "6 AWG")
    [finding] = told(draft.design())
    assert "14.02 V there, 0.96 V too low" in finding.arithmetic[1]


def test_the_same_boat_at_24_volts() -> None:
    twice = {"series": 2} | AGM
    for set_v, high in ((29.0, False), (29.6, False), (29.62, True)):
        design = charged(twice, {"system_v": 24}, set_v=set_v, float_v=27.2)
        assert [f.severity for f in told(design)] == (["fault"] if high else [])


def test_a_lithium_bank_sinks_to_where_it_rests_at_float() -> None:
    # The table of rest voltages has 13.33 V at 90 %, 13.40 V full, and 13.05 V near 40 %.
    assert not told(charged(LFP, set_v=14.2, float_v=13.5))
    [shallow] = told(charged(LFP, set_v=14.2, float_v=13.3))
    [deep] = told(charged(LFP, set_v=14.2, float_v=12.9))
    assert (shallow.severity, deep.severity) == ("note", "caution")
    sinks = [f.figures[1].value for f in (shallow, deep)]
    assert 60 < sinks[0] < 95 and sinks[1] < 25
    assert f"{(1 - sinks[1] / 100) * 200:.0f} Ah" in deep.arithmetic[1]


def test_what_is_held_follows_sensor_and_output() -> None:
    cold = charged(AGM | {"temperature_c": 5}, temperature_sensor="house_bank")
    charger = cold.by_id["charger"]
    assert isinstance(charger, Charger)
    assert compensation_v(cold, charger) == pytest.approx(20 * 0.024)
    assert compensation_v(cold, charger, 35.0) == pytest.approx(-0.24)
    assert held(cold, charger).volts_v == pytest.approx(14.98)
    # Three outputs: gel 14.2 V and lithium 14.0 V beside AGM; the inside lies at the highest.
    three = charged(AGM, outputs=3, out2_set_v=14.2, out3_set_v=14.0, out3_float_v=13.4)
    part = three.by_id["charger"]
    assert isinstance(part, Charger)
    assert held(three, part).lower_v == pytest.approx({"out1": 0.0, "out2": 0.3, "out3": 0.5})
    floats = held(three, part, "float")
    assert floats.volts_v == 13.6
    assert floats.lower_v == pytest.approx({"out1": 0.0, "out2": 0.0, "out3": 0.2})
