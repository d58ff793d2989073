"""A day of two banks in ngspice too: capacitors stand for the wells, sources for the chemistry."""

from __future__ import annotations

import subprocess
import tempfile
from itertools import pairwise
from pathlib import Path

from strom_engine.batteries import BankModel, BankWells, bank_model
from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.dayrun import Day, Plan, day_run
from strom_engine.dayrun.pattern import load_spans
from strom_engine.dayrun.plan import LivingSpan, Move, ShoreSpan
from strom_engine.design import Bank, Design

from bench.designs import Draft

__all__ = ["largest_soc_difference", "spice_netlist_of_day", "strom_day", "two_bank_day"]

HOURS = 24.0
RATED_A, SHORE = 12.0, (2.0, 7.0)
JOINED = (4.0, 16.0)
STEP_S = 20.0


def two_bank_day() -> tuple[Design, Plan]:
    """An AGM and a flooded bank, a load on one, a charger at its limit on it, joined for hours."""
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_ah=90, soc=0.95, temperature_c=25)
    draft.bank("house_bank", chemistry="flooded_deep", unit_ah=200, soc=0.55, temperature_c=25)
    draft.part("bus_bar", "bar", polarity="neg", studs=12)
    draft.part("switch", "parallel", purpose="parallel")
    # It never reaches what it would hold: a current source while the shore lead is in.
    draft.part("charger", "charger", rated_a=RATED_A, set_v=15.9, float_v=15.8)
    draft.load("panel", 5.0, law="current")
    for n, (start, end) in enumerate(
        (
            ("engine_bank.pos", "parallel.a"),
            ("parallel.b", "house_bank.pos"),
            ("charger.out1", "house_bank.pos"),
            ("house_bank.pos", "panel.pos"),
            ("engine_bank.neg", "bar"),
            ("house_bank.neg", "bar"),
            ("charger.neg", "bar"),
            ("panel.neg", "bar"),
        )
    ):
        draft.cable(start, f"bar.s{n + 1}" if end == "bar" else end, "2 AWG", 2.0)
    plan = Plan(
        name="Two banks",
        hours=HOURS,
        shore=(ShoreSpan(start_h=SHORE[0], end_h=SHORE[1]),),
        living=(
            LivingSpan(start_h=1, end_h=9, profile="living"),
            LivingSpan(start_h=12, end_h=20, profile="living"),
        ),
        moves=(
            Move(at_h=JOINED[0], switch="parallel", position="on"),
            Move(at_h=JOINED[1], switch="parallel", position="off"),
        ),
    )
    return draft.design(), plan


def strom_day() -> Day:
    """The day by the day run."""
    design, plan = two_bank_day()
    return day_run(design, None, plan)


def spice_netlist_of_day() -> str:
    """The same day as a netlist: time in seconds, charge as volts on capacitors of 3600 F."""
    design, plan = two_bank_day()
    ohms = {c.id: cable_resistance_ohm(design, c) for c in design.cables}
    banks = {b.id: (bank_model(b), b.soc) for b in design.of_type(Bank)}
    lines = ["* two banks through a day"]
    for n, (bank, soc) in enumerate(banks.values()):
        lines += _bank_lines(n, bank, bank.rested(soc))
    lines += [
        f"Rneg0 m0 bar {ohms['c4']}",
        f"Rneg1 m1 bar {ohms['c5']}",
        "Rbar bar 0 1e-9",
        # The switch: both its cables and its contact, closed by a voltage.
        f"Rleft p0 sa {ohms['c0']}",
        f"Rright sb p1 {ohms['c1'] + 0.05 / 300}",
        "Vjoin join 0 PWL(" + _steps([(JOINED[0], JOINED[1])], 1.0) + ")",
        "Sjoin sa sb join 0 contact",
        ".model contact SW(Ron=1e-6 Roff=1e9 Vt=0.5 Vh=0)",
        f"Icharge bar p1 PWL({_steps([SHORE], RATED_A)})",
        f"Iload p1 bar PWL({_steps(_living(design, plan), 5.0)})",
    ]
    lines += [
        ".options reltol=1e-5 abstol=1e-9 method=gear",
        f".tran {STEP_S} {HOURS * 3600} 0 {STEP_S} uic",
        ".control",
        "run",
        "wrdata soc.txt v(a0) v(b0) v(a1) v(b1)",
        "quit 0",
        ".endc",
        ".end",
    ]
    return "\n".join(lines) + "\n"


def _bank_lines(n: int, bank: BankModel, wells: BankWells) -> list[str]:
    """Capacitors for both wells and for what is left of charging, and the voltage they lead to.

    A capacitor of 3600 F holds one ampere-hour a volt, and changes by so many volts an hour as it
    gets amps; between wells flows k c (1 - c) Q (h2 - h1), a current of ``k ((1 - c) q1 - c q2)``.
    """
    c, k, q = bank.model.share, bank.model.rate_per_h, bank.model.total_ah
    made = bank.kinetics
    head, soc = f"(v(a{n})/{c * q})", f"((v(a{n})+v(b{n}))/{q})"
    table = ",".join(
        f"{h},{v}" for h, v in zip(bank.curve.heads[1:], bank.curve.volts[1:], strict=True)
    )
    table += f",2,{bank.curve.volts[-1]}"  # above full as full
    current = f"i(Vm{n})"
    ready = f"(1/(1+exp(({soc}-{made.knee_soc})/{made.knee_width})))"
    left = f"(1+max(0,1-{soc})/{made.finish_width})"
    exchange = f"({made.ready_a}*{ready}+{made.full_a}*{left})"
    eta = f"({made.slope_v}*asinh(max(0,{current})/{exchange}))"
    share = f"({made.surface_share}*(1-{ready}))"
    put = f"(max(0,{current})*{bank.efficiency}*(1-exp(min(0,({soc}-1)/{made.gassing_width}))))"
    flow = f"{k}*({1 - c}*v(a{n})-{c}*v(b{n}))"
    washed = f"min(0,{current})/{made.wash_ah}"
    over = f"({share}*{eta}-v(s{n}))"
    # u() is 1 above 0: it rises as fast as the rest, and fades by itself.
    rate = f"(u({over})/{made.rise_h}+u(-{over})/{made.fade_h})"
    ohm = f"{bank.resistance_ohm}/(0.3+0.7*min(1,max(0,{head})))"
    return [
        f"Ca{n} a{n} 0 3600 ic={wells[0]}",
        f"Cb{n} b{n} 0 3600 ic={wells[1]}",
        f"Cq{n} q{n} 0 3600 ic=0",
        f"Cs{n} s{n} 0 3600 ic=0",
        f"Bqa{n} 0 a{n} I={c}*{put}+min(0,{current})-{bank.self_a}-({flow})",
        f"Bqb{n} 0 b{n} I={1 - c}*{put}+{flow}",
        f"Bqq{n} 0 q{n} I=((1-{share})*{eta}-v(q{n}))/{made.rise_h}+v(q{n})*{washed}",
        f"Bqs{n} 0 s{n} I={over}*{rate}+v(s{n})*{washed}",
        *(f"R{x}{n} {x}{n} 0 1e12" for x in "abqs"),
        f"Vm{n} p{n} t{n} 0",
        f"Bt{n} t{n} m{n} V=pwl({head},{table})+{current}*{ohm}+v(q{n})+v(s{n})",
    ]


def _living(design: Design, plan: Plan) -> list[tuple[float, float]]:
    return [(s.start_h, s.end_h) for s in load_spans(design, None, plan)]


def _steps(spans: list[tuple[float, float]], value: float) -> str:
    points = [(0.0, 0.0)]
    for start_h, end_h in spans:
        points += [(start_h * 3600, 0.0), (start_h * 3600 + 0.5, value)]
        points += [(end_h * 3600, value), (end_h * 3600 + 0.5, 0.0)]
    points.append((HOURS * 3600 + 10, points[-1][1]))
    return " ".join(f"{t} {v}" for t, v in points)


def spice_soc() -> dict[str, list[tuple[float, float]]]:
    """State of charge of both banks over time [s] as ngspice finds it."""
    design, _ = two_bank_day()
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "day.cir").write_text(spice_netlist_of_day())
        subprocess.run(
            ["ngspice", "-b", "day.cir"], cwd=folder, check=True, capture_output=True, timeout=120
        )
        rows = [
            [float(v) for v in line.split()]
            for line in (Path(folder) / "soc.txt").read_text().splitlines()
        ]
    found = {}
    for n, bank in enumerate(design.of_type(Bank)):
        total = bank_model(bank).model.total_ah
        found[bank.id] = [(r[0], (r[4 * n + 1] + r[4 * n + 3]) / total) for r in rows]
    return found


def largest_soc_difference() -> float:
    """Largest difference of state of charge between both [-], at every hour."""
    record, spice = strom_day().recording, spice_soc()
    worst = 0.0
    for bank, column in record.soc.items():
        for hour in range(1, int(HOURS) + 1):
            ours = _at([*zip(record.at_s, column, strict=True)], hour * 3600)
            theirs = _at(spice[bank], hour * 3600)
            worst = max(worst, abs(ours - min(1.0, theirs)))
    return worst


def _at(points: list[tuple[float, float]], at_s: float) -> float:
    """Value at a moment, straight between the points around it."""
    for (t0, v0), (t1, v1) in pairwise(points):
        if t0 <= at_s <= t1:
            return v1 if t1 == t0 else v0 + (v1 - v0) * (at_s - t0) / (t1 - t0)
    return points[-1][1]
