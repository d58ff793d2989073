"""From a design in a state to the solver's elements: what is live, and what floats."""

from __future__ import annotations

from dataclasses import dataclass, field

from strom_engine.batteries import bank_source
from strom_engine.circuit.constants import (
    COIL_A,
    CRANKING_SHARE_OF_NOMINAL,
    DCDC_FLOOR_SHARE,
    ISOLATOR_LEAK_S,
    KNEE_SHARE,
    LEAK_S,
    LOAD_FOLD_SHARE,
    ONE_WAY_DROP_V,
    RECTIFIER_DROP_V,
    REGULATOR_DROOP_OHM,
)
from strom_engine.circuit.demand import inverter_power_w, inverting, items_on, load_reference_v
from strom_engine.circuit.elements import (
    BankElement,
    Element,
    LoadElement,
    OneWayElement,
    PowerDrawElement,
    ResistorElement,
    SourceElement,
)
from strom_engine.circuit.held import held
from strom_engine.circuit.live_metal import Metal, live_metal
from strom_engine.circuit.network import Network, excited
from strom_engine.circuit.standing_draws import standing_draws
from strom_engine.circuit.supply import source_limit_a, source_running
from strom_engine.design import (
    Alternator,
    Bank,
    Charger,
    DcDc,
    Design,
    DualSwitch,
    FittedInverter,
    Isolator,
    LoadGroup,
    OneWayCombiner,
    OnOffSwitch,
    Solar,
    Source,
    Starter,
    State,
)
from strom_engine.faults import Effects
from strom_engine.reference import load_table

__all__ = ["Circuit", "build_circuit"]


@dataclass
class Circuit:
    """What the solver is given, and what was left out because no bank holds its voltage."""

    net: Network
    metal: Metal
    elements: list[Element] = field(default_factory=list)
    loose_sources: list[str] = field(default_factory=list)
    unexcited: list[str] = field(default_factory=list)
    dead_parts: list[str] = field(default_factory=list)
    inside: list[int] = field(default_factory=list)

    def at(self, ref: str) -> int | None:
        """Live node of a post; None where the post has no defined voltage."""
        return self.metal.live_of.get(self.net.node(ref))

    def span(self, plus: str, minus: str) -> tuple[int, int] | None:
        """Live nodes of two posts when current can return through the same island."""
        return self.metal.span(self.net.node(plus), self.net.node(minus))

    def ground(self, beside: int) -> int:
        """The ground of the island that a live node is in."""
        island = self.metal.island
        return next(g for g in self.metal.grounds if island[g] == island[beside])

    def add_node(self, beside: int) -> int:
        """A node inside a part, in the island of another node."""
        self.inside.append(self.metal.island[beside])
        return self.metal.count + len(self.inside) - 1


def build_circuit(
    design: Design, state: State, net: Network, effects: Effects | None = None
) -> Circuit:
    """Elements of everything that a bank gives a voltage; the rest is named."""
    circuit = Circuit(net=net, metal=live_metal(design, net))
    _add_banks(circuit, design, state, effects)
    _add_isolators(circuit, design)
    _add_one_ways(circuit, design)
    _add_sources(circuit, design, state)
    _add_dcdc(circuit, design)
    _add_coils(circuit, design, state)
    _add_standing_draws(circuit, design, state)
    _add_loads(circuit, design, state)
    return circuit


def _add_banks(circuit: Circuit, design: Design, state: State, effects: Effects | None) -> None:
    for bank in design.of_type(Bank):
        span = circuit.span(f"{bank.id}.pos", f"{bank.id}.neg")
        assert span is not None  # a bank powers its own island
        source = bank_source(
            bank,
            state.soc.get(bank.id),
            dead_cells=effects.dead_cells.get(bank.id, 0) if effects else 0,
            added_ohm=effects.bank_ohm.get(bank.id, 0.0) if effects else 0.0,
        )
        circuit.elements.append(BankElement(bank.id, *span, source))


def _add_isolators(circuit: Circuit, design: Design) -> None:
    """A one-way law to each output: ``I = (V - knee) / r``.

    Source: table isolator_drops; its own drop at rated current where that is known.
    """
    rows = {row["sort"]: row for row in load_table("isolator_drops").rows}
    for part in design.of_type(Isolator):
        knee_v = float(rows[part.sort]["knee_v"])
        rated_v = part.drop_v or float(rows[part.sort]["rated_drop_v"])
        knee_v = min(knee_v, KNEE_SHARE * rated_v)
        ohm = (rated_v - knee_v) / part.rating_a
        for start, end in part.ways():
            # Of a second input the way is named too: one input's name is its output's.
            name = f"{part.id}.{end}" if start == "in" else f"{part.id}.{start}_{end}"
            span = circuit.span(f"{part.id}.{start}", f"{part.id}.{end}")
            if span is not None:
                circuit.elements.append(OneWayElement(name, *span, ohm, knee_v))
        # With nothing flowing in, an input side lies at no voltage.
        for start in ("in", "in2")[: part.inputs]:
            fed = circuit.at(f"{part.id}.{start}")
            if fed is not None:
                ground = circuit.ground(fed)
                leak = "leak" if start == "in" else "leak2"
                circuit.elements.append(
                    ResistorElement(f"{part.id}.{leak}", fed, ground, 1 / ISOLATOR_LEAK_S)
                )


def _add_one_ways(circuit: Circuit, design: Design) -> None:
    for part in design.of_type(OneWayCombiner):
        span = circuit.span(f"{part.id}.in", f"{part.id}.out")
        if part.id in circuit.net.moved and span is not None:
            ohm = ONE_WAY_DROP_V / part.limit_a
            circuit.elements.append(OneWayElement(part.id, *span, ohm, limit_a=part.limit_a))


def _add_coils(circuit: Circuit, design: Design, state: State) -> None:
    """The coils of held switches that are on; one that let go still has its coil in circuit."""
    for part in design.components:
        if not isinstance(part, OnOffSwitch | DualSwitch) or not part.moves_itself:
            continue
        span = circuit.span(f"{part.id}.ctrl_pos", f"{part.id}.ctrl_neg")
        if span is not None and state.positions.get(part.id) != "off":
            ohm = design.system_v / (COIL_A * 12 / design.system_v)
            circuit.elements.append(ResistorElement(f"{part.id}.coil", *span, ohm, "coil"))


def _add_standing_draws(circuit: Circuit, design: Design, state: State) -> None:
    for draw in standing_draws(design, state, circuit.net):
        span = circuit.span(draw.plus, draw.minus)
        if span is not None:
            ohm = design.system_v / draw.amps
            circuit.elements.append(ResistorElement(draw.name, *span, ohm, "standing_draw"))


def _add_sources(circuit: Circuit, design: Design, state: State) -> None:
    for part in design.components:
        if isinstance(part, Alternator) and not excited(design, circuit.net, part):
            circuit.unexcited.append(part.id)
        if not part.charging_posts() or not isinstance(part, Source):
            continue
        if not source_running(design, part, state, circuit.net):
            continue
        if isinstance(part, Charger):
            _add_charger(circuit, design, part)
            continue
        out = "out" if isinstance(part, Alternator) else "pos"
        span = circuit.span(f"{part.id}.{out}", f"{part.id}.neg")
        if span is None:
            circuit.loose_sources.append(part.id)
            continue
        limit_w = None
        if isinstance(part, Solar) and part.controller == "mppt":
            limit_w = part.panel_w * state.sun * part.efficiency
        element = SourceElement(
            part.id,
            *span,
            *_sense_nodes(circuit, part, span),
            set_v=held(design, part).volts_v,
            droop_ohm=REGULATOR_DROOP_OHM,
            limit_a=None if limit_w is not None else source_limit_a(part, state),
            limit_w=limit_w,
        )
        circuit.elements.append(element)


def _sense_nodes(circuit: Circuit, part: Source, span: tuple[int, int]) -> tuple[int, int]:
    """Where a regulator senses; a sense lead that is not run falls back on the machine."""
    if not isinstance(part, Alternator) or part.sensing == "machine":
        return span
    island = circuit.metal.island
    nodes = (circuit.at(f"{part.id}.sense_pos"), circuit.at(f"{part.id}.sense_neg"))
    plus, minus = (
        fallback if node is None or island[node] != island[span[0]] else node
        for node, fallback in zip(nodes, span, strict=True)
    )
    return plus, minus


def _add_charger(circuit: Circuit, design: Design, part: Charger) -> None:
    holds = held(design, part)
    spans = {
        out: circuit.span(f"{part.id}.{out}", f"{part.id}.neg")
        for out in (f"out{i}" for i in range(1, part.outputs + 1))
    }
    landed = {out: span for out, span in spans.items() if span is not None}
    if not landed:
        circuit.loose_sources.append(part.id)
        return
    minus = next(iter(landed.values()))[1]
    inside = circuit.add_node(minus)
    circuit.elements.append(ResistorElement(f"{part.id}.leak", inside, minus, 1 / LEAK_S))
    circuit.elements.append(
        SourceElement(
            part.id,
            inside,
            minus,
            inside,
            minus,
            set_v=holds.volts_v,
            droop_ohm=REGULATOR_DROOP_OHM,
            limit_a=part.rated_a,
        )
    )
    for out, span in landed.items():
        ohm = RECTIFIER_DROP_V / part.rated_a
        knee_v = holds.lower_v[out]
        circuit.elements.append(OneWayElement(f"{part.id}.{out}", inside, span[0], ohm, knee_v))


def _add_dcdc(circuit: Circuit, design: Design) -> None:
    """Output as a regulated source, input as the power that it gives over its efficiency."""
    for part in design.of_type(DcDc):
        before = circuit.span(f"{part.id}.in", f"{part.id}.neg")
        after = circuit.span(f"{part.id}.out", f"{part.id}.{part.out_neg}")
        if part.id not in circuit.net.moved or before is None or after is None:
            continue
        output = SourceElement(
            part.id,
            *after,
            *after,
            set_v=held(design, part).volts_v,
            droop_ohm=REGULATOR_DROOP_OHM,
            limit_a=part.output_limit_a,
        )
        floor_v = DCDC_FLOOR_SHARE * part.stop_v
        taking = PowerDrawElement(f"{part.id}.in", *before, output, part.efficiency, floor_v)
        circuit.elements += [output, taking]


def _add_loads(circuit: Circuit, design: Design, state: State) -> None:
    for group in design.of_type(LoadGroup):
        reference_v = load_reference_v(design.nominal_v(group))
        span = circuit.span(f"{group.id}.pos", f"{group.id}.neg")
        if span is None:
            circuit.dead_parts.append(group.id)
            continue
        drawn = dict.fromkeys(("power", "current", "resistance"), 0.0)
        for item in items_on(group.id, group.items, state):
            drawn[item.law] += item.draw_a
        circuit.elements.append(
            LoadElement(
                group.id,
                *span,
                power_w=drawn["power"] * reference_v,
                current_a=drawn["current"],
                conductance_s=drawn["resistance"] / reference_v,
                fold_v=LOAD_FOLD_SHARE * design.nominal_v(group),
            )
        )
    _add_inverters(circuit, design, state)
    for starter in design.of_type(Starter):
        span = circuit.span(f"{starter.id}.pos", f"{starter.id}.neg")
        if span is None:
            circuit.dead_parts.append(starter.id)
        elif state.cranks(starter.engine):
            ohm = CRANKING_SHARE_OF_NOMINAL * design.nominal_v(starter) / starter.cranking_a
            circuit.elements.append(ResistorElement(starter.id, *span, ohm, "starter"))


def _add_inverters(circuit: Circuit, design: Design, state: State) -> None:
    for part in design.of_type(FittedInverter):
        span = circuit.span(f"{part.id}.pos", f"{part.id}.neg")
        if span is None:
            circuit.dead_parts.append(part.id)
        elif inverting(part, state, circuit.net):
            power_w = inverter_power_w(part, state)
            load = LoadElement(f"{part.id}.dc", *span, power_w, 0.0, 0.0, 0.75 * part.cut_out_v)
            circuit.elements.append(load)
