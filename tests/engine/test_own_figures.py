"""Figures of the part in hand: they decide in place of usual ones, at 12 V and at 24 V."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.circuit import bench, operating_point, position_card
from strom_engine.circuit.positions import joined_posts
from strom_engine.circuit.standing_draws import usual_draw_a
from strom_engine.circuit.supply import most_a
from strom_engine.dayrun import Plan, SchoolId, day_report, day_run, handling
from strom_engine.dayrun.plan import EngineSpan, LivingSpan
from strom_engine.design import AddPart, Design, Solar, Starter, State, apply_change, parse_design
from strom_engine.design.usual import usual_part
from strom_engine.errors import DesignError
from strom_engine.rules import findings
from strom_engine.runs import design_currents, paths
from strom_engine.sizing import load_report, start_check, turning_v
from strom_engine.survey import AuditItem, Survey, surveyed, to_find_out

from bench.designs import Draft
from tests.engine.boats import bare_banks, demo_job, relay_boat, two_banks, with_cables

DEFAULTS = {
    # kind, the fields that must be told: the defaults of the others at 12 V
    "relay": ({"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30},
              {"lock_low_v": 9.6, "lock_high_v": 16.0}),
    "dcdc": ({"limit_a": 30, "set_v": 14.4}, {"start_v": 13.3, "stop_v": 12.8}),
    "one_way": ({}, {"start_v": 13.2, "stop_v": 12.9}),
    "protection": ({"guards": "bank"}, {"high_v": 14.8, "low_v": 11.2}),
    "inverter": ({"rated_w": 1000}, {"cut_out_v": 10.5, "set_v": 14.4, "float_v": 13.5}),
    "solar": ({"panel_w": 100, "set_v": 14.4}, {"panel_vmp_v": 18.0}),
}  # fmt: skip
VOLTS = ("cut_in_v", "cut_out_v", "set_v")


@pytest.mark.parametrize("kind", DEFAULTS)
@pytest.mark.parametrize("system_v", [12, 24, 48])
def test_what_is_left_out_has_the_volts_of_its_system(kind: str, system_v: int) -> None:
    scale = system_v / 12
    told, usual = DEFAULTS[kind]
    own = {n: v * scale if n in VOLTS else v for n, v in told.items()}
    raw = {"kind": kind, "id": "gear", "name": "Gear"} | own
    bank = {"kind": "bank", "id": "bank", "name": "Bank", "role": "house", "chemistry": "agm",
            "unit_ah": 100, "series": system_v // 12, "soc": 0.8}  # fmt: skip
    base = {"system_v": system_v, "cables": []}
    parsed = parse_design(base | {"components": [bank, raw]})
    put = apply_change(
        parse_design(base | {"components": [bank]}), AddPart.model_validate({"part": raw})
    )
    wanted = {n: own.get(n, v * scale) for n, v in usual.items()}
    for part in (parsed.by_id["gear"], put.by_id["gear"]):
        assert {n: getattr(part, n) for n in usual} == pytest.approx(wanted)
    if kind != "protection":
        assert usual_part(kind, "gear", "Gear", system_v).kind == kind


def test_an_isolators_own_drop_at_its_rating() -> None:
    drops = []
    for drop_v in (None, 0.4):
        draft = bare_banks({"soc": 0.3, "unit_ah": 800}, soc=0.3, unit_ah=800)
        draft.part("alternator", "alternator", rated_a=100, set_v=14.4, hot_share=1.0)
        draft.part("isolator", "isolator", rating_a=100, drop_v=drop_v)
        design = with_cables(draft, ("alternator.out", "isolator.in"), ("alternator.neg", "bar"),
                             ("isolator.out1", "house_bank.pos"))  # fmt: skip
        point = operating_point(design, State(engine="on", rpm=3000))
        assert point.passing["isolator.out1"].current_a == pytest.approx(100, abs=0.1)
        drops.append(point.passing["isolator.out1"].drop_v)
    assert drops == [pytest.approx(1.0, abs=0.15), pytest.approx(0.4, abs=0.001)]


@pytest.mark.parametrize("system_v", [12, 24])
def test_gear_draws_by_itself(system_v: int) -> None:
    """Usual figures keep their power at 24 V; a figure of its own stands as it is."""
    scale = system_v / 12
    usual = usual_draw_a("relay", "open", system_v)
    assert usual == pytest.approx(0.006 / scale)

    def drawn(**relay: Any) -> float:
        thresholds = {"cut_in_v": 13.3 * scale, "cut_in_s": 60, "cut_out_v": 12.75 * scale,
                      "cut_out_s": 30}  # fmt: skip
        draft = bare_banks({"soc": 0.5, "series": system_v // 12}, soc=0.5, series=system_v // 12)
        draft.extra["system_v"] = system_v
        draft.part("relay", "relay", **(thresholds | relay))
        design = with_cables(draft, ("engine_bank.pos", "relay.a"), ("relay.b", "house_bank.pos"),
                             ("relay.neg", "bar"))  # fmt: skip
        return operating_point(design, State()).totals.used_a

    assert drawn() == pytest.approx(usual, rel=0.05)
    assert drawn(idle_a=0.05) == pytest.approx(0.05, rel=0.05)


def test_a_relay_that_needs_the_engine_draws_nothing_at_rest_and_its_coil_when_closed() -> None:
    still = operating_point(relay_boat(relay={"ignition": True}).design(), State())
    assert still.totals.used_a == pytest.approx(0, abs=1e-6)
    running = operating_point(
        relay_boat(relay={"closed_a": 0.3}).design(), State(engine="on", rpm=2500)
    )
    assert running.relays["relay"].closed
    assert running.totals.used_a == pytest.approx(0.3 * 14.3 / 12, rel=0.05)


def test_outputs_of_a_charger_with_profiles_of_their_own() -> None:
    draft = bare_banks({"soc": 1.0, "chemistry": "agm"}, soc=1.0)
    draft.part("charger", "charger", outputs=2, rated_a=60, set_v=14.4, float_v=13.6,
               out2_set_v=13.8, out2_float_v=13.2)  # fmt: skip
    design = with_cables(draft, ("charger.out1", "house_bank.pos"), ("charger.neg", "bar"),
                         ("charger.out2", "engine_bank.pos"))  # fmt: skip
    point = operating_point(design, State(shore=True))
    volts = [point.banks[b].volts_v for b in ("house_bank", "engine_bank")]
    assert volts == [pytest.approx(14.4, abs=0.05), pytest.approx(13.8, abs=0.05)]
    day = day_run(design, None, Plan.model_validate(
        {"name": "P", "hours": 8, "shore": [{"start_h": 0, "end_h": 8}]}))  # fmt: skip
    floats = [day.recording.volts_v[b][-1] for b in ("house_bank", "engine_bank")]
    assert floats == [pytest.approx(13.6, abs=0.05), pytest.approx(13.2, abs=0.05)]


def disabled(position: str) -> Draft:
    """The relay boat with a small switch in the relay's negative."""
    draft = relay_boat()
    wire = next(c for c in draft.cables if c["start"] == "relay.neg")
    wire["end"] = "off.a"
    draft.part("switch", "off", position=position, rating_a=5)
    draft.cable("off.b", "bar.s8", "16 AWG")
    return draft


def test_a_switch_in_the_relays_negative_is_no_battery_switch() -> None:
    def told(design: Design) -> list[str]:
        return [f.severity for f in findings(design) if f.rule == "CH-16"]

    on, off = disabled("on").design(), disabled("off").design()
    assert (told(on), told(off)) == ([], ["caution"])
    card = position_card(on, State())
    assert "off" not in card.switches and "off" in card.fixed
    school: SchoolId = "d"
    assert "off" not in handling(on, school).away
    # On the bench it is turned like any other, and then the relay is dead.
    dead = bench(on, State(engine="on", positions={"off": "off"})).point.relays["relay"]
    assert not dead.closed and "nothing to measure against" in dead.why


@pytest.mark.parametrize(
    ("switch", "position", "posts"),
    [
        ("selector", "off", ()),
        ("selector", "1", (("one", "common"),)),
        ("selector", "both", (("one", "two", "common"),)),
        ("dual", "on", (("house_in", "house_out"), ("engine_in", "engine_out"))),
        ("dual", "combine", (("house_in", "engine_in", "house_out", "engine_out"),)),
    ],
)
def test_the_posts_that_an_ohmmeter_finds_joined(
    switch: str, position: str, posts: tuple[tuple[str, ...], ...]
) -> None:
    draft = two_banks()
    draft.part("dual_switch", "dual")
    assert joined_posts(draft.design(), switch, position) == posts


def test_what_stands_on_the_boats_own_switch_is_said() -> None:
    marks = [{"position": "both", "words": "ALL"}]
    design = two_banks(house_bank={"chemistry": "lfp"}, selector={"marks": marks}).design()
    told = " ".join(line for f in findings(design) for line in f.arithmetic)
    assert "Selector on both (ALL)" in told
    with pytest.raises(DesignError, match="marks"):
        two_banks(selector={"marks": [{"position": "both", "words": ""}]}).design()


def test_volts_of_ones_own_turn_watt_hours_into_ampere_hours() -> None:
    job = demo_job("marsh_wren.json")
    design = job.variants[0].design
    sizing = job.survey.sizing.model_copy(update={"volts": "own", "own_v": 12.9})
    own = load_report(design, job.survey.model_copy(update={"sizing": sizing}))
    sizing = sizing.model_copy(update={"volts": "12.8"})
    usual = load_report(design, job.survey.model_copy(update={"sizing": sizing}))
    assert own.audit.volts_v == 12.9 and "12.9 V" in own.stated.words
    watts = [sum(d.energy_wh for d in r.audit.profiles) for r in (own, usual)]
    hours = [sum(d.charge_ah for d in r.audit.profiles) for r in (own, usual)]
    assert [w / h for w, h in zip(watts, hours, strict=True)] == pytest.approx([12.9, 12.8])


def mixed(watts: float = 100.0) -> tuple[Design, Survey]:
    """A 24 V boat with a 12 V feed and a 12 V starter on a 12 V bank of their own."""
    draft = Draft()
    draft.extra["system_v"] = 24
    draft.bank("house_bank", series=2, unit_ah=200)
    draft.bank("engine_bank", role="engine", unit_cca_a=800, soc=1.0, temperature_c=27)
    draft.part("starter", "starter", cranking_a=200, nominal_v=12)
    items = [{"id": "lamp", "name": "Lamp", "draw_a": 1.0, "profiles": ["living"]}]
    draft.part("loads", "low", nominal_v=12, items=items)
    draft.part("loads", "high", items=[items[0] | {"id": "fan", "name": "Fan"}])
    for start, end in (
        ("engine_bank.pos", "low.pos"),
        ("engine_bank.neg", "low.neg"),
        ("house_bank.pos", "high.pos"),
        ("house_bank.neg", "high.neg"),
        ("engine_bank.pos", "starter.pos"),
        ("engine_bank.neg", "starter.neg"),
    ):
        draft.cable(start, end, "2 AWG", 3.0)
    design = draft.design()
    uses = {"living": {"hours": 24}}
    raw = [{"id": i, "name": i.title(), "draw": watts, "unit": "W", "feed": feed, "uses": uses}
           for i, feed in (("lamp", "low"), ("fan", "high"))]  # fmt: skip
    survey = demo_job("marsh_wren.json").survey.model_copy(
        update={
            "profiles": design.profiles,
            "items": tuple(AuditItem.model_validate(one) for one in raw),
        }
    )
    return design, survey


def test_volts_are_those_of_the_part_not_of_the_system() -> None:
    design, survey = mixed()
    seen = surveyed(design, survey)
    # 100 W at 12.6 V and at 25.2 V
    draws = [seen.by_id[g].items[0].draw_a for g in ("low", "high")]  # type: ignore[union-attr]
    assert draws == [pytest.approx(100 / 12.6), pytest.approx(100 / 25.2)]
    point = operating_point(seen, State(profile="living"))
    watts = [
        now.current_a * (now.volts_v or 0.0) for g in ("low", "high") for now in (point.loads[g],)
    ]
    assert watts == pytest.approx([100, 100])
    by_id = {p.id: p for p in paths(seen)}
    assert [by_id[f"supply {g}"].nominal_v for g in ("low", "high")] == [12, 24]
    for path in by_id.values():
        assert path.drop_percent == pytest.approx(100 * path.drop_v / path.nominal_v)
    # Both volts of the limits of a start: 0.5 and 1 V of a 12 V starter, 9.6 V to turn over.
    assert by_id["cranking starter"].limit_v == pytest.approx(1.0)
    starter = design.of_type(Starter)[0]
    assert start_check(seen, survey, starter).limit_v == pytest.approx(
        turning_v(seen, starter, survey.boat.coldest_c or 0.0)
    )
    assert turning_v(seen, starter, 27.0) == pytest.approx(9.6)


def test_a_loose_cable_is_to_find_out() -> None:
    job = demo_job("marsh_wren.json")
    one = {"id": "stray", "start": "house_bank.pos", "end": None, "length_m": 2.0,
           "gauge": "10 AWG"}  # fmt: skip
    raw = job.variants[0].design.model_dump(mode="json") | {"parked": [one]}
    rows = to_find_out(parse_design(raw), job.survey)
    [row] = [r for r in rows if r.question == "where does it lead?"]
    assert row.subject == "10 AWG on House bank +" and row.now == "end hangs loose"


def test_an_engine_that_starts_only_because_banks_are_joined() -> None:
    flat = {"soc": {"engine_bank": 0.2, "house_bank": 0.2}}
    plan = {"name": "P", "hours": 2, "engine": (EngineSpan(start_h=1, end_h=1.5),),
            "living": (LivingSpan(start_h=0, end_h=2, profile="living"),)} | flat  # fmt: skip
    told = []
    for cranking_a in (100, 220):
        draft = two_banks(starter={"cranking_a": cranking_a})
        day = day_run(draft.design(), None, Plan.model_validate(plan))
        [one] = day.tries
        assert one.started and set(one.alone_v) == {"engine_bank", "house_bank"}
        assert all(v is not None and one.volts_v is not None and v < one.volts_v
                   for v in one.alone_v.values())  # fmt: skip
        told.append((one.only_together, day_report(day).verdict[0]))
    assert [together for together, _ in told] == [False, True]
    assert told[1][1].tone == "bad" and "only because banks are joined" in told[1][1].words
    assert "alone" in told[1][1].words


def test_the_most_that_a_source_gives() -> None:
    draft = two_banks(alternator={"rated_a": 100, "field_limit": 0.8})
    draft.part("dcdc", "dcdc", limit_a=40, set_v=14.4, input_limit_a=30)
    design = draft.design()
    # 100 A x 0.75 hot x 0.8; 30 A x 0.9 x 12.8 / 14.4 = 24 A
    assert most_a(design.by_id["alternator"]) == pytest.approx(60)  # type: ignore[arg-type]
    assert most_a(design.by_id["dcdc"]) == pytest.approx(24)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("controller", "label_a"),
    [("mppt", 360 * 0.95 / (0.833 * 14.4)), ("pwm", 360 / 18)],
)
def test_a_panel_gives_one_answer(controller: str, label_a: float) -> None:
    """28.5 A behind a tracking controller, 20 A behind a switching one, whoever asks."""
    draft = relay_boat(relay={"rating_a": 10})
    draft.part("solar", "solar", panel_w=360, set_v=14.4, controller=controller)
    draft.cable("solar.pos", "house_bank.pos", "8 AWG")
    draft.cable("solar.neg", "bar.s9", "8 AWG")
    design = draft.design()
    lead = next(c.id for c in design.cables if c.start == "solar.pos")
    assert design_currents(design)[lead].rated_a == pytest.approx(label_a)
    share = next(f for f in findings(design) if f.rule == "CH-3")
    told = share.figures[1].value
    assert told == pytest.approx(max(100.0, label_a))  # the alternator on the other side
    solar = design.by_id["solar"]
    assert isinstance(solar, Solar) and solar.label_a == pytest.approx(label_a)
