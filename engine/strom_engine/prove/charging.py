"""Tests with sources at work: relays and dc-dc chargers, the start, the alternator."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit import OperatingPoint
from strom_engine.design import (
    Alternator,
    Bank,
    Cable,
    Charger,
    DcDc,
    Design,
    Relay,
    Starter,
    State,
)
from strom_engine.prove.points import settled
from strom_engine.prove.probing import clamp, volts
from strom_engine.prove.proving import Draft, look, measure, unsettled
from strom_engine.prove.settings import CRUISE_RPM

__all__ = ["engine", "sharing"]

CHARGE_USEFUL_V = 0.5
CRANK_USEFUL_V = 1.0
DROP_USEFUL_V = 0.25
AMPS_USEFUL_SHARE = 0.4
MINUTES = (0, 5, 20, 45)  # a machine that fades looks well for the first twenty
HOT = "Belts and hot metal: sleeves, hair and leads away. Gas: no sparks at the batteries."
CRANKING = "Fuel cut off, gear in neutral, nobody near the shaft. Ten seconds, then rest it."


def sharing(design: Design) -> Iterator[Draft]:
    """Relays close and open as set; dc-dc chargers give what they should."""
    shore = State(shore=True)
    running = State(engine="on", rpm=CRUISE_RPM)
    chargers = design.of_type(Charger)
    for relay in design.of_type(Relay):
        state = shore if chargers else running
        yield look(
            f"closes:{relay.id}", "sharing", f"{relay.name} closes", relay.id,
            f"a click within {relay.cut_in_s:g} s of {relay.cut_in_v:g} V on the sensed side",
            state=state,
            misses=("its negative is open", "it senses the wrong side", "charge does not reach it"),
        )  # fmt: skip
        yield measure(
            f"joined:{relay.id}", "sharing", f"Volts across {relay.name}", relay.id,
            (state, volts(f"{relay.id}.a", f"{relay.id}.b"), CHARGE_USEFUL_V),
            misses=("it has not closed", "burnt contacts", "loose studs on the relay"),
        )  # fmt: skip
        yield look(
            f"opens:{relay.id}", "sharing", f"{relay.name} opens", relay.id,
            f"a click within {relay.cut_out_s:g} s of {relay.cut_out_v:g} V, charging ended",
            misses=("a bank at rest holds it closed", "contacts welded"),
            minutes=10.0,
        )  # fmt: skip
    for part in design.of_type(DcDc):
        cables = design.cables_on(f"{part.id}.out")
        if cables:
            point = settled(design, running)
            amps = abs(point.amps_in(cables[0].id)) if point else 0.0
            out = clamp(cables[0], away_from=f"{part.id}.out")
            yield measure(
                f"dcdc:{part.id}", "sharing", f"What {part.name} gives", part.id,
                (running, out, max(1.0, AMPS_USEFUL_SHARE * amps)),
                misses=("its input is too low", "its fuse", "its limit is set otherwise"),
                caution=HOT,
            )  # fmt: skip


def engine(design: Design) -> Iterator[Draft]:
    """Cranking, then charging: volts, drops and amps at the machine and at its bank."""
    for starter in design.of_type(Starter):
        yield from _starts(design, starter)
    for machine in design.of_type(Alternator):
        yield from _charges(design, machine)
        yield _stages(machine)


def _starts(design: Design, starter: Starter) -> Iterator[Draft]:
    second = starter.engine == "second"
    state = State(**{"second_cranking" if second else "cranking": True})  # type: ignore[arg-type]  # one flag
    point = settled(design, state)
    if point is None:
        yield unsettled(
            f"crank:{starter.id}", "engine", f"Cranking: {starter.name}", starter.id, state
        )
        return
    bank = _giver(design, point)
    if bank is None:
        return
    scale = design.nominal_v(starter) / 12
    key, at = starter.id, f"cranking: {starter.name}"
    yield measure(
        f"crank:{key}:bank", "engine", f"{bank.name} while {at}", bank.id,
        (state, volts(f"{bank.id}.pos", f"{bank.id}.neg"), CRANK_USEFUL_V * scale),
        misses=("a weak or cold bank", "another bank is joined"), caution=CRANKING,
    )  # fmt: skip
    yield measure(
        f"crank:{key}:starter", "engine", f"{starter.name} at its own posts", key,
        (state, volts(f"{key}.pos", f"{key}.neg"), CRANK_USEFUL_V * scale),
        misses=("drop in plus or minus: measure both", "a weak bank"), caution=CRANKING,
    )  # fmt: skip
    yield measure(
        f"crank:{key}:plus", "engine", f"Drop in plus while {at}", key,
        (state, volts(f"{bank.id}.pos", f"{key}.pos"), DROP_USEFUL_V * scale),
        misses=("a crimp, stud or switch contact on the way", "thin or long cable"),
        caution=CRANKING,
    )  # fmt: skip
    yield measure(
        f"crank:{key}:minus", "engine", f"Drop in minus while {at}", key,
        (state, volts(f"{key}.neg", f"{bank.id}.neg"), DROP_USEFUL_V * scale),
        misses=("the negative that nobody measured: block, bar, stud",), caution=CRANKING,
    )  # fmt: skip


def _charges(design: Design, machine: Alternator) -> Iterator[Draft]:
    state = State(engine="on", rpm=CRUISE_RPM)
    point = settled(design, state)
    if point is None:
        yield unsettled(
            f"charge:{machine.id}", "engine", f"{machine.name} running", machine.id, state
        )
        return
    bank = max(
        design.of_type(Bank),
        key=lambda b: point.banks[b.id].given_by_a.get(machine.id, 0.0),
        default=None,
    )
    if bank is None:
        return
    scale, key = design.nominal_v(machine) / 12, machine.id
    out, neg = f"{key}.out", f"{key}.neg"
    for what, plus, minus, part, useful, misses in (
        ("machine", out, neg, key, CHARGE_USEFUL_V, ("regulator set or sensing otherwise",)),
        (
            "bank", f"{bank.id}.pos", f"{bank.id}.neg", bank.id, CHARGE_USEFUL_V,
            ("drop in plus or minus: measure both", "the machine gives too little"),
        ),
        (
            "plus", out, f"{bank.id}.pos", key, DROP_USEFUL_V,
            ("a crimp, stud or contact on the way", "thin or long cable"),
        ),
        (
            "minus", f"{bank.id}.neg", neg, key, DROP_USEFUL_V,
            ("the negative that nobody measured: block, bar, stud",),
        ),
    ):  # fmt: skip
        title = {
            "machine": f"{machine.name} at its own posts",
            "bank": f"{bank.name} while {machine.name} charges",
            "plus": f"Drop in plus, {machine.name} to {bank.name}",
            "minus": f"Drop in minus, {bank.name} to {machine.name}",
        }[what]
        yield measure(
            f"charge:{key}:{what}", "engine", title, part,
            (state, volts(plus, minus), useful * scale), misses=misses, caution=HOT,
        )  # fmt: skip
    cables = design.cables_on(out)
    if cables:
        yield from _amps_over_time(design, machine, cables[0], point)


def _stages(machine: Alternator) -> Draft:
    """What its regulator is set to."""
    title = f"Settings of {machine.name}'s regulator, one by one"
    held = [f"holds {machine.set_v:g} V"]
    held += [f"float {machine.float_v:g} V"] if machine.float_v else []
    return look(
        f"stages:{machine.id}", "engine", title, machine.id, ", ".join(held),
        misses=("set for another chemistry",),
    )  # fmt: skip


def _amps_over_time(
    design: Design, machine: Alternator, cable: Cable, point: OperatingPoint
) -> Iterator[Draft]:
    """Amps at 0, 5, 20 and 45 minutes, the banks charged on by what flowed until then."""
    amps = abs(point.amps_in(cable.id))
    for before, minutes in zip((0, *MINUTES), MINUTES, strict=False):
        charged = {
            b.id: max(0.0, point.banks[b.id].current_a) * minutes / 60 / b.capacity_ah
            for b in design.of_type(Bank)
        }
        state = State(engine="on", rpm=CRUISE_RPM)
        out = clamp(cable, away_from=f"{machine.id}.out")
        yield measure(
            f"fade:{machine.id}:{minutes}", "engine", f"{machine.name} after {minutes} min",
            machine.id, (state, out, max(3.0, AMPS_USEFUL_SHARE * amps)),
            misses=("it fades when warm", "a slipping belt", "a phase or diode is out"),
            caution=HOT, minutes=float(minutes - before),
            charged=charged if minutes else {},
        )  # fmt: skip


def _giver(design: Design, point: OperatingPoint) -> Bank | None:
    """The bank that gives most."""
    banks = design.of_type(Bank)
    least = min(banks, key=lambda b: point.banks[b.id].current_a, default=None)
    return least if least is not None and point.banks[least.id].current_a < 0 else None
