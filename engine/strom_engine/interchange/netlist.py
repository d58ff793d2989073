"""A state as a SPICE netlist, its piecewise parts written as what they are.

Node 0 is the ground of one island; further islands are grounded by name. Every part is
written from its own law, not from the solution, so that any circuit simulator can check
the operating point. The laws have corners that simulators cannot step across at once, so that
every node carries a farad and the circuit is left to settle: what it comes to rest at is the
operating point.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from strom_engine.circuit.build import Circuit, build_circuit
from strom_engine.circuit.elements import (
    BankElement,
    Element,
    LoadElement,
    OneWayElement,
    PowerDrawElement,
    ResistorElement,
    SourceElement,
)
from strom_engine.circuit.network import network
from strom_engine.design import Design, State, check_state

# The charge overpotential vanishes on discharge: there it is this small resistance.
REVERSE_OHM = 1e-6
# Small enough that a nearly full bank, which gives way to hardly any current, settles in time.
NODE_F = 0.05
REGULATOR_LAG_S = 40
SETTLE = ".tran 1 2000 0 uic"

__all__ = ["SETTLE", "element_current_name", "spice_netlist"]


def spice_netlist(design: Design, state: State, moved: frozenset[str]) -> str:
    """A state as a SPICE netlist; it ends with the command to let it settle.

    Args:
        design: the boat, as surveyed.
        state: what runs and where switches stand.
        moved: parts that stand otherwise than at rest, as an operating point tells them.

    Raises:
        StateError: the state names what is not there.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> spice_netlist(design, State(), frozenset()).splitlines()[0]
    "* Strom: one state of a boat's battery system, quasi-static DC"
    """
    state = check_state(design, state)
    net = network(design, state.positions, moved)
    circuit = build_circuit(design, state, net)
    names = {node: f"n{i}" for node, i in circuit.metal.live_of.items()}
    lines = ["* Strom: one state of a boat's battery system, quasi-static DC"]
    for post, node in net.nodes.of_post.items():
        if node in names:
            lines.append(f"* {names[node]} = {post}")
    lines += _conductors(circuit)
    for element in circuit.elements:
        lines += _element(element)
    lines += [f"Vgnd{i} n{node} 0 0" for i, node in enumerate(circuit.metal.grounds)]
    inner = [f"i_{_tag(element.name)}" for element in circuit.elements]
    settling = [*(f"n{i}" for i in range(circuit.metal.count + len(circuit.inside))), *inner]
    lines += [f"C_{node} {node} 0 {NODE_F} ic=0" for node in settling]
    lines += [".options reltol=1e-6 abstol=1e-9 vntol=1e-8 gmin=1e-15", SETTLE, ".end"]
    return "\n".join(lines) + "\n"


def element_current_name(name: str) -> str:
    """Name of the zero-volt source that measures an element's current."""
    return f"vm_{_tag(name)}"


def _tag(name: str) -> str:
    return name.replace(".", "__")


def _conductors(circuit: Circuit) -> Iterable[str]:
    for i, branch in enumerate(circuit.metal.branches):
        yield f"R{i} n{branch.a} n{branch.b} {1 / branch.conductance_s:.12g}"


def _element(e: Element) -> list[str]:
    """A meter in series, then the element's law as a current source or a voltage source."""
    tag = _tag(e.name)
    inner = f"i_{tag}"
    meter = f"{element_current_name(e.name)} n{e.plus} {inner} 0"
    volts = f"V({inner},n{e.minus})"
    match e:
        case BankElement():
            s = e.source
            over = f"V({inner},e_{tag})"
            rising = f"{s.eta_current_a:.12g}*sinh(min({over}/{s.eta_slope_v:.12g},20))"
            return [
                meter,
                f"B{tag} {inner} e_{tag} I={over}>0?{rising}:{over}/{REVERSE_OHM}",
                f"R{tag} e_{tag} f_{tag} {s.resistance_ohm:.12g}",
                f"V{tag} f_{tag} n{e.minus} {s.emf_v:.12g}",
            ]
        case SourceElement():
            sense = f"V(n{e.control_plus},n{e.control_minus})"
            if e.limit_a is not None:
                limit = f"{e.limit_a:.12g}"
            else:
                limit = f"{e.limit_w or 0.0:.12g}/max({volts},{0.25 * e.set_v:.12g})"
            given = f"({e.set_v:.12g}-{sense})/{e.droop_ohm:.12g}"
            law = f"min({limit},max(0,{given}))"
            if (e.control_plus, e.control_minus) == (e.plus, e.minus):
                return [meter, f"B{tag} {inner} n{e.minus} I=-{law}"]
            # Sensing across lengths of cable it would swing without end: it follows its law slowly.
            return [
                meter,
                f"Blag_{tag} 0 lag_{tag} I={law}",
                f"Rlag_{tag} lag_{tag} 0 1",
                f"Clag_{tag} lag_{tag} 0 {REGULATOR_LAG_S} ic=0",
                f"B{tag} {inner} n{e.minus} I=-V(lag_{tag})",
            ]
        case PowerDrawElement():
            out = e.output
            given = f"max(0,-V(n{out.plus},n{out.minus})*I({element_current_name(out.name)}))"
            return [
                meter,
                f"B{tag} {inner} n{e.minus} I={given}/{e.efficiency:.12g}"
                f"/max({volts},{e.floor_v:.12g})",
            ]
        case OneWayElement():
            over = f"({volts}-{e.knee_v:.12g})"
            passing = f"max(0,{over}/{e.resistance_ohm:.12g})"
            limited = passing if math.isinf(e.limit_a) else f"min({e.limit_a:.12g},{passing})"
            return [meter, f"B{tag} {inner} n{e.minus} I={limited}"]
        case LoadElement():
            folded = e.power_w / e.fold_v**2 + e.current_a / e.fold_v
            holding = f"{e.power_w:.12g}/max({volts},{e.fold_v:.12g})+{e.current_a:.12g}"
            law = f"({volts}>{e.fold_v:.12g}?{holding}:{folded:.12g}*{volts})"
            return [meter, f"B{tag} {inner} n{e.minus} I={law}+{e.conductance_s:.12g}*{volts}"]
        case ResistorElement():
            return [meter, f"R{tag} {inner} n{e.minus} {e.resistance_ohm:.12g}"]
        case _:
            return []
