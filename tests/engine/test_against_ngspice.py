"""The operating point against an independent circuit simulator, on generated designs."""

import re
import subprocess
from concurrent.futures import ThreadPoolExecutor

import pytest
from strom_engine.circuit import bench
from strom_engine.circuit.build import build_circuit
from strom_engine.circuit.network import network
from strom_engine.design import DcDc, Design, State, check_state
from strom_engine.interchange import spice_netlist
from strom_engine.interchange.netlist import SETTLE, element_current_name

from bench.generated import generated_design, generated_state
from tests.engine.boats import demo_designs

DESIGNS = 320  # from 240 on with gear of the rarer kinds too
BATCH = 20
PATIENCE_S = 20


def simulated(netlist: str) -> dict[str, float]:
    """Node volts and branch amps that ngspice comes to rest at, names in lower case."""
    names = re.findall(r"^C_(n\d+) ", netlist, re.MULTILINE)
    names += [f"{m}#branch" for m in re.findall(r"^(vm_\w+) ", netlist, re.MULTILINE)]
    prints = "\n".join(f"print {n}[length({n})-1]" for n in names)
    control = f".control\nset numdgt=10\n{SETTLE[1:]}\n{prints}\nquit\n.endc\n.end\n"
    circuit = netlist.replace(f"{SETTLE}\n.end\n", control)
    run = _ngspice(circuit)
    for way in ("method=gear reltol=1e-6 abstol=1e-9", "method=gear reltol=1e-4 abstol=1e-7"):
        if "aborted" in run.stdout + run.stderr:  # its other ways of integrating may get past
            run = _ngspice(
                re.sub(r"^\.options .*$", f".options {way}", circuit, flags=re.MULTILINE)
            )
    found = re.findall(r"^(\S+)\[length.* = ([-+.\deE]+)$", run.stdout, re.MULTILINE)
    assert len(found) == len(names), run.stdout[-2000:] + run.stderr[-2000:]
    assert "aborted" not in run.stdout + run.stderr, run.stderr[-500:]
    return {name.lower(): float(value) for name, value in found}


def _ngspice(circuit: str) -> subprocess.CompletedProcess[str]:
    command = ["ngspice", "-b", "/dev/stdin"]
    try:
        return subprocess.run(
            command, input=circuit, capture_output=True, text=True, check=False, timeout=PATIENCE_S
        )
    except subprocess.TimeoutExpired:  # it halves its steps for ever
        return subprocess.CompletedProcess(command, 1, "", "aborted")


def differences(design: Design, state: State, label: str) -> list[str]:
    """Where ngspice and the operating point disagree."""
    state = check_state(design, state)
    point = bench(design, state).point
    closed = point.moved()
    answer = simulated(spice_netlist(design, state, closed))
    circuit = build_circuit(design, state, network(design, state.positions, closed))
    wrong = []
    for ref, volts in point.post_v.items():
        node = circuit.at(ref)
        if volts is None or node is None:
            continue
        other = answer.get(f"n{node}", 0.0)
        if abs(volts - other) > max(0.002, 0.001 * abs(other)):
            wrong.append(f"{label} {ref}: {volts:.5f} V, ngspice {other:.5f} V")
    measured = [(bank, now.current_a) for bank, now in point.banks.items()]
    measured += [
        (name, -now.current_a)
        for name, now in point.sources.items()
        if now.mode not in ("idle", "loose")
    ]
    for name, now in point.converters.items():
        if now.closed and isinstance(design.by_id[name], DcDc):
            measured += [(name, -now.out_a), (f"{name}.in", now.in_a)]
        elif now.closed:
            measured.append((name, now.out_a))
    for name, amps in measured:
        other = answer[f"{element_current_name(name)}#branch"]
        if abs(amps - other) > max(0.02, 0.005 * abs(other)):
            wrong.append(f"{label} {name}: {amps:.4f} A, ngspice {other:.4f} A")
    return wrong


def generated(seed: int) -> list[str]:
    design = generated_design(seed)
    return differences(design, generated_state(design, seed), f"design {seed}")


@pytest.mark.parametrize("first", range(0, DESIGNS, BATCH))
def test_generated_designs(first: int) -> None:
    with ThreadPoolExecutor(2) as pool:
        wrong = [w for found in pool.map(generated, range(first, first + BATCH)) for w in found]
    assert wrong == []


@pytest.mark.parametrize("engine", ["off", "on"])
@pytest.mark.parametrize("number", range(len(demo_designs())))
def test_demo_designs(number: int, engine: str) -> None:
    design = demo_designs()[number]
    profile = design.profiles[0].id
    state = State(engine=engine, rpm=1800, shore=number % 2 == 0, sun=0.5, profile=profile)
    assert differences(design, state, str(number)) == []
