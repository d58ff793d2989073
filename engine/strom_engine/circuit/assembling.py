"""From a solved circuit to results in the words of the design."""

from __future__ import annotations

from collections.abc import Sequence

from strom_engine.circuit.constants import LOAD_FOLD_SHARE
from strom_engine.circuit.demand import inverter_power_w, inverting, items_on, load_reference_v
from strom_engine.circuit.elements import (
    Element,
    OneWayElement,
    PowerDrawElement,
    ResistorElement,
    SourceElement,
)
from strom_engine.circuit.results import (
    BankNow,
    ItemNow,
    LoadNow,
    OperatingPoint,
    PassingNow,
    ShuntNow,
    SourceNow,
    StarterNow,
    Totals,
)
from strom_engine.circuit.solved import Solved
from strom_engine.circuit.supply import source_limit_a, source_running
from strom_engine.circuit.trace import SMALLEST_A, Injection, Passage, trace_shares
from strom_engine.design import (
    Alternator,
    Bank,
    Charger,
    DcDc,
    Design,
    FittedInverter,
    Isolator,
    LoadGroup,
    LoadItem,
    Shunt,
    Source,
    Starter,
)

__all__ = ["assemble", "balance_residual", "item_current_a"]


def assemble(solved: Solved) -> OperatingPoint:
    """The results of a solved state in the words of the design."""
    shares = _shares(solved)
    amps = _conductor_amps(solved)
    ohms = {c.name: c.resistance_ohm for c in solved.circuit.net.conductors}
    banks, sources = _banks(solved, shares), _sources(solved)
    loads, starters = _loads(solved, shares), _starters(solved)
    passing = _passing(solved)
    return OperatingPoint(
        post_v=_post_volts(solved),
        post_island=_post_islands(solved),
        conductor_a=amps,
        conductor_drop_v={name: abs(amps[name]) * ohm for name, ohm in ohms.items()},
        totals=Totals(
            given_a=sum(s.current_a for s in sources.values()),
            used_a=sum(now.current_a for now in loads.values())
            + sum(now.current_a for now in starters.values())
            + _coils_a(solved),
            stored_a=sum(b.current_a for b in banks.values()),
            converted_a=sum(amps for _, amps in _converter_ends(solved)),
            lost_w=sum(amps[name] ** 2 * ohm for name, ohm in ohms.items())
            + sum(now.current_a * now.drop_v for now in passing.values())
            + _conversion_loss_w(solved),
        ),
        banks=banks,
        sources=sources,
        loads=loads,
        starters=starters,
        dead_parts=tuple(solved.circuit.dead_parts),
        loose_sources=tuple(solved.circuit.loose_sources),
        balance_residual=balance_residual(solved),
        rounds=solved.solution.rounds,
        passing=passing,
        shunts=_shunts(solved, banks, amps),
    )


def _post_volts(solved: Solved) -> dict[str, float | None]:
    volts, live_of = solved.solution.volts.tolist(), solved.circuit.metal.live_of
    return {
        ref: volts[live_of[node]] if node in live_of else None
        for ref, node in solved.circuit.net.nodes.of_post.items()
    }


def _post_islands(solved: Solved) -> dict[str, int | None]:
    live_of, island = solved.circuit.metal.live_of, solved.circuit.metal.island
    return {
        ref: island[live_of[node]] if node in live_of else None
        for ref, node in solved.circuit.net.nodes.of_post.items()
    }


def _conductor_amps(solved: Solved) -> dict[str, float]:
    volts, live_of = solved.solution.volts.tolist(), solved.circuit.metal.live_of
    return {
        c.name: (volts[live_of[c.a]] - volts[live_of[c.b]]) / c.resistance_ohm
        if c.a in live_of
        else 0.0
        for c in solved.circuit.net.conductors
    }


def _injections(solved: Solved) -> list[Injection]:
    """Who puts current into the positive side, and where."""
    found = []
    banks = {b.id for b in solved.design.of_type(Bank)}
    chargers = _charger_outputs(solved.design)
    single = {p.id for p in solved.design.sources if not isinstance(p, Charger)}
    drawn = _drawn_on_posts(solved)
    for e, amps in zip(solved.circuit.elements, solved.solution.amps, strict=True):
        if e.name in chargers and amps > 0:
            found.append(Injection(chargers[e.name], e.minus, amps))
        elif e.name in banks | single and amps < 0:
            # What hangs on a bank's own posts is fed by it before anything leaves it.
            leaves_a = -amps - drawn.get((e.plus, e.minus), 0.0) if e.name in banks else -amps
            if leaves_a > 0:
                found.append(Injection(e.name, e.plus, leaves_a))
    return found


def _drawn_on_posts(solved: Solved) -> dict[tuple[int, int], float]:
    """What gear draws by itself between two nodes [A]."""
    found: dict[tuple[int, int], float] = {}
    for e, amps in zip(solved.circuit.elements, solved.solution.amps, strict=True):
        if isinstance(e, ResistorElement) and e.kind == "standing_draw":
            found[e.plus, e.minus] = found.get((e.plus, e.minus), 0.0) + amps
    return found


def _charger_outputs(design: Design) -> dict[str, str]:
    """Names of the output elements of chargers, with the charger's."""
    return {f"{c.id}.out{i}": c.id for c in design.of_type(Charger) for i in (1, 2, 3)}


def _shares(solved: Solved) -> dict[int, dict[str, float]]:
    passages = [Passage(element.plus, element.minus, amps) for element, amps in _one_way(solved)]
    for part in solved.design.of_type(DcDc):
        before, after = solved.circuit.at(f"{part.id}.in"), solved.circuit.at(f"{part.id}.out")
        if before is not None and after is not None:
            # What it gives is mixed as what it takes.
            passages.append(Passage(before, after, -(solved.amps(part.id) or 0.0)))
    branches, volts = solved.circuit.metal.branches, solved.solution.volts
    return trace_shares(branches, volts, _injections(solved), passages)


def _one_way(solved: Solved) -> list[tuple[Element, float]]:
    """Ways through isolators and one-way combiners with what passes them [A]."""
    outputs = _charger_outputs(solved.design)
    return [
        (element, amps)
        for element, amps in zip(solved.circuit.elements, solved.solution.amps, strict=True)
        if isinstance(element, OneWayElement) and element.name not in outputs
    ]


def _conversion_loss_w(solved: Solved) -> float:
    """Heat of dc-dc chargers [W]: what they take less what they give."""
    volts = solved.solution.volts
    ends = _converter_ends(solved)
    return sum(float((volts[e.plus] - volts[e.minus]) * amps) for e, amps in ends)


def _coils_a(solved: Solved) -> float:
    """What coils and gear at rest draw by themselves [A]."""
    pairs = zip(solved.circuit.elements, solved.solution.amps, strict=True)
    return sum(
        amps
        for e, amps in pairs
        if isinstance(e, ResistorElement) and e.kind in ("coil", "standing_draw")
    )


def _converter_ends(solved: Solved) -> list[tuple[Element, float]]:
    """Inputs and outputs of dc-dc chargers with the amps [A] they take; negative when given."""
    own = {p.id for p in solved.design.of_type(DcDc)}
    pairs = zip(solved.circuit.elements, solved.solution.amps, strict=True)
    return [
        (e, amps)
        for e, amps in pairs
        if isinstance(e, PowerDrawElement) or (isinstance(e, SourceElement) and e.name in own)
    ]


def _passing(solved: Solved) -> dict[str, PassingNow]:
    volts = solved.solution.volts
    found = {
        e.name: PassingNow(max(amps, 0.0), float(volts[e.plus] - volts[e.minus]))
        for e, amps in _one_way(solved)
    }
    for part in solved.design.of_type(Isolator):
        # An output shows what passes it from both inputs, and the drop of the one that passes.
        for start, end in part.ways():
            second = found.pop(f"{part.id}.{start}_{end}", None)
            if second is not None:
                first = found.get(f"{part.id}.{end}", PassingNow(0.0, 0.0))
                drop_v = max(first, second, key=lambda now: now.current_a).drop_v
                amps = first.current_a + second.current_a
                found[f"{part.id}.{end}"] = PassingNow(amps, drop_v)
    return found


def _given(shares: dict[int, dict[str, float]], node: int | None, amps: float) -> dict[str, float]:
    """Amps [A] that each giver contributes to what is taken at a node."""
    if node is None or amps < SMALLEST_A:
        return {}
    return {name: share * amps for name, share in shares.get(node, {}).items()}


def _banks(solved: Solved, shares: dict[int, dict[str, float]]) -> dict[str, BankNow]:
    found = {}
    for bank in solved.design.of_type(Bank):
        volts = solved.volts(f"{bank.id}.pos", f"{bank.id}.neg")
        amps = solved.amps(bank.id)
        assert volts is not None  # every bank powers its own island
        assert amps is not None
        found[bank.id] = BankNow(
            volts_v=volts,
            current_a=amps,
            soc=solved.state.soc.get(bank.id, bank.soc),
            given_by_a=_given(shares, solved.circuit.at(f"{bank.id}.pos"), amps),
        )
    return found


def _sources(solved: Solved) -> dict[str, SourceNow]:
    return {part.id: _source(solved, part) for part in solved.design.sources}


def _source(solved: Solved, part: Source) -> SourceNow:
    design, state = solved.design, solved.state
    present = source_running(design, part, state, solved.circuit.net)
    plus = part.charging_posts()[0]
    if isinstance(part, Alternator) and part.id in solved.circuit.unexcited:
        turning = state.engine_runs(part.engine)
        return SourceNow("unexcited" if turning else "idle", 0.0, 0.0, part.set_v)
    if not present or part.id in solved.circuit.loose_sources:
        mode = "loose" if present else "idle"
        limit = source_limit_a(part, state) if present else 0.0
        return SourceNow(mode=mode, current_a=0.0, limit_a=limit, set_v=part.set_v)
    element = next(e for e in solved.circuit.elements if e.name == part.id)
    assert isinstance(element, SourceElement)
    volts = solved.solution.volts
    return SourceNow(
        mode=str(solved.mode(part.id)),
        current_a=-(solved.amps(part.id) or 0.0),
        limit_a=element.limit_now_a(float(volts[element.plus] - volts[element.minus])),
        set_v=part.set_v,
        volts_v=solved.volts(f"{part.id}.{plus}", f"{part.id}.neg"),
        sense_v=float(volts[element.control_plus] - volts[element.control_minus]),
    )


def _loads(solved: Solved, shares: dict[int, dict[str, float]]) -> dict[str, LoadNow]:
    found = {}
    for group in solved.design.of_type(LoadGroup):
        volts = solved.volts(f"{group.id}.pos", f"{group.id}.neg")
        amps = solved.amps(group.id) or 0.0
        on = {item.id for item in items_on(group.id, group.items, solved.state)}
        found[group.id] = LoadNow(
            volts_v=volts,
            current_a=amps,
            given_by_a=_given(shares, solved.circuit.at(f"{group.id}.pos"), amps),
            items=tuple(
                _item(solved.design.nominal_v(group), item, item.id in on, volts)
                for item in group.items
            ),
        )
    return found | {
        i.id: _inverter(solved, i, shares) for i in solved.design.of_type(FittedInverter)
    }


def _inverter(solved: Solved, part: FittedInverter, shares: dict[int, dict[str, float]]) -> LoadNow:
    """An inverter as a load: each item's part of what it takes by its power."""
    state = solved.state
    amps = solved.amps(f"{part.id}.dc") or 0.0
    on = {item.id for item in items_on(part.id, part.items, state)}
    live = inverting(part, state, solved.circuit.net)
    whole_w = inverter_power_w(part, state) if live else 1.0
    ac_w = sum(item.power_w for item in part.items if item.id in on)
    lent = (whole_w - part.idle_w) / ac_w if live and ac_w else 0.0
    return LoadNow(
        volts_v=solved.volts(f"{part.id}.pos", f"{part.id}.neg"),
        current_a=amps,
        given_by_a=_given(shares, solved.circuit.at(f"{part.id}.pos"), amps),
        items=tuple(
            ItemNow(
                i.id, i.id in on, amps * i.power_w * lent / whole_w if i.id in on else 0.0, False
            )
            for i in part.items
        ),
    )


def _item(nominal_v: float, item: LoadItem, on: bool, volts: float | None) -> ItemNow:
    live = on and volts is not None and volts > 0
    amps = item_current_a(nominal_v, item, volts) if live and volts is not None else 0.0
    too_low = live and item.min_v is not None and volts is not None and volts < item.min_v
    return ItemNow(id=item.id, on=on, current_a=amps, below_minimum=too_low)


def item_current_a(nominal_v: float, item: LoadItem, volts: float) -> float:
    """Current [A] an item made for a nominal voltage draws at a voltage [V], by its law."""
    reference_v, fold_v = load_reference_v(nominal_v), LOAD_FOLD_SHARE * nominal_v
    folded = min(1.0, volts / fold_v)
    match item.law:
        case "power":
            return item.draw_a * reference_v / max(volts, fold_v) * folded
        case "current":
            return item.draw_a * folded
        case "resistance":
            return item.draw_a * volts / reference_v


def _starters(solved: Solved) -> dict[str, StarterNow]:
    return {
        s.id: StarterNow(
            volts_v=solved.volts(f"{s.id}.pos", f"{s.id}.neg"),
            current_a=solved.amps(s.id) or 0.0,
        )
        for s in solved.design.of_type(Starter)
    }


def _shunts(
    solved: Solved, banks: dict[str, BankNow], amps: dict[str, float]
) -> dict[str, ShuntNow]:
    """What each shunt reads against the banks whose negatives hang on its bank side."""
    design, net = solved.design, solved.circuit.net
    found = {}
    for shunt in design.of_type(Shunt):
        near = {net.node(f"{shunt.id}.bank")}
        joins = [(c.a, c.b) for c in net.conductors if not c.name.startswith(f"{shunt.id}.")]
        while more := {b for a, b in [*joins, *((b, a) for a, b in joins)] if a in near} - near:
            near |= more
        own = [b for b in banks if net.node(f"{b}.neg") in near]
        # Positive from bank to system inside the shunt is charge that goes into the bank.
        reads_a = amps.get(f"{shunt.id}.bank", 0.0)
        bank_a = sum(banks[b].current_a for b in own)
        found[shunt.id] = ShuntNow(reads_a, bank_a, bank_a - reads_a)
    return found


def balance_residual(solved: Solved) -> float:
    """Power that does not add up, as a share of the throughput [-]."""
    volts = solved.solution.volts
    conductors = [
        (volts[b.a] - volts[b.b]) ** 2 * b.conductance_s for b in solved.circuit.metal.branches
    ]
    elements: Sequence[float] = [
        float((volts[e.plus] - volts[e.minus]) * amps)
        for e, amps in zip(solved.circuit.elements, solved.solution.amps, strict=True)
    ]
    total = abs(sum(conductors) + sum(elements))
    throughput = sum(conductors) + sum(abs(p) for p in elements)
    return float(total / throughput) if throughput > 1e-3 else 0.0
