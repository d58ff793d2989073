"""``python -m bench.pictures``: the worked examples of docs/days, with a picture of each."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import pairwise
from pathlib import Path

from strom_engine.dayrun import Day, DayReport, day_report, day_run

from bench.classics import CLASSICS, Classic
from bench.spice_day import two_bank_day

FOLDER = Path(__file__).parents[1] / "docs/days"
WIDTH, LEFT, PANEL, GAP = 760, 70, 150, 46
PALETTE = ("#1c6a78", "#8a5200", "#1f6b45")
DASHES = ("", "8 4", "2 3")


def main() -> None:
    """Write the page and its pictures anew."""
    FOLDER.mkdir(exist_ok=True)
    lines = [HEAD]
    for one in CLASSICS:
        lived = {name: day_run(boat(), None, one.plan) for name, boat in one.boats.items()}
        (FOLDER / f"{one.id}.svg").write_text(_picture(lived))
        lines += _words(one, {name: (day, day_report(day)) for name, day in lived.items()})
    design, plan = two_bank_day()
    (FOLDER / "two_banks.svg").write_text(_picture({"two banks": day_run(design, None, plan)}))
    lines.append(TAIL)
    (FOLDER / "README.md").write_text("\n".join(lines))


HEAD = """# Worked examples of the day run

Each is a small boat in `bench/classics.py`, lived through by the day run, and a test in
`tests/engine/test_dayrun.py`. Nothing in the day run knows of these phenomena: they follow from
two-well banks, the circuit, and gear with thresholds and delays. `python -m bench.pictures` makes
this page anew. Each picture shows the volts of the banks; the bar at the foot of a panel is dark
while a relay is closed.
"""
TAIL = """## Two banks, also in ngspice

`bench/spice_day.py` writes the same day as a netlist, with capacitors for the wells;
`./strom bench` prints the ratio of times and the largest difference of state of charge, and a
test holds it below 0.2 %.

![Two banks for a day](two_banks.svg)
"""


def _words(one: Classic, lived: dict[str, tuple[Day, DayReport]]) -> list[str]:
    lines = [f"## {one.title}", "", one.seen, "", f"![{one.title}]({one.id}.svg)", ""]
    lines += ["| boat | closures | joined, nothing charging | float begins | hottest | starts | "
              "house bank at the end |", "|---|---|---|---|---|---|---|"]  # fmt: skip
    for name, (day, report) in lived.items():
        relay = report.relays[0] if report.relays else None
        starts = ", ".join(
            f"{t.volts_v or 0:.1f} V{'' if t.started else ' fails'}" for t in report.starts
        )
        cells = (
            name,
            f"{relay.closures}" if relay else "–",
            f"{relay.idle_h:.1f} h" if relay else "–",
            f"at {report.floats[0].soc:.0%}" if report.floats else "–",
            f"{max(report.hottest_c.values()):.0f} °C" if report.hottest_c else "–",
            starts or "–",
            f"{day.ended_soc['house_bank']:.0%}",
        )
        lines.append(f"| {' | '.join(cells)} |")
    notes = [f"- {name}: {h.words}" for name, (_, r) in lived.items() for h in r.hazards[:1]]
    notes += [
        f"- {name}: {e.words}"
        for name, (day, _) in lived.items()
        for e in [e for e in day.events if e.kind == "join"][:1]
    ]
    return [*lines, "", *notes, ""]


def _picture(lived: dict[str, Day]) -> str:
    height = len(lived) * (PANEL + GAP) + 10
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {height}" '
        f'font-family="sans-serif" font-size="13">',
        f'<rect width="{WIDTH}" height="{height}" fill="#fcf8ee"/>',
    ]
    for n, (name, day) in enumerate(lived.items()):
        parts += _panel(24 + n * (PANEL + GAP), name, day)
    return "\n".join([*parts, "</svg>", ""])


def _panel(top: float, name: str, day: Day) -> Iterable[str]:
    record, hours = day.recording, day.plan.hours
    known = [v for column in record.volts_v.values() for v in column if v > 8]
    low, high = int(min(known) * 2) / 2, int(max(known) * 2 + 1) / 2
    wide = WIDTH - LEFT - 20

    def x(at_s: float) -> float:
        return LEFT + at_s / 3600 / hours * wide

    def y(volts: float) -> float:
        return top + PANEL - (max(volts, low) - low) / (high - low) * (PANEL - 14)

    yield f'<text x="{LEFT}" y="{top - 6}" font-weight="bold">{name}</text>'
    yield (
        f'<rect x="{LEFT}" y="{top}" width="{wide}" height="{PANEL}" fill="#f7f2e6" stroke="#ccc"/>'
    )
    for volts in (low, (low + high) / 2, high):
        at = y(volts)
        yield f'<path d="M{LEFT} {at:.1f}h{wide}" stroke="#ddd"/>'
        yield f'<text x="{LEFT - 6}" y="{at + 4:.1f}" text-anchor="end">{volts:.2f} V</text>'
    for hour in range(0, int(hours) + 1, max(1, round(hours / 8))):
        at = x(hour * 3600)
        yield f'<text x="{at:.1f}" y="{top + PANEL + 16}" text-anchor="middle">{hour} h</text>'
    for n, (bank, column) in enumerate(record.volts_v.items()):
        points = _path(record.at_s, column, x, y)
        yield (
            f'<path d="{points}" fill="none" stroke="{PALETTE[n]}" stroke-width="1.6" '
            f'stroke-dasharray="{DASHES[n]}"/>'
        )
        at = LEFT + wide - 200 + 110 * n
        label = day.design.by_id[bank].name
        yield f'<text x="{at}" y="{top - 6}" fill="{PALETTE[n]}">— {label}</text>'
    closed = [
        (e.at_s, e.to) for e in day.events if e.kind == "relay" and e.to in ("closed", "open")
    ]
    for (start, to), (end, _) in pairwise([*closed, (hours * 3600, "")]):
        if to == "closed":
            yield (
                f'<rect x="{x(start):.1f}" y="{top + PANEL - 6}" '
                f'width="{max(0.4, x(end) - x(start)):.1f}" height="6" fill="#12303a"/>'
            )


def _path(times: Sequence[float], column: Sequence[float], x: object, y: object) -> str:
    """A line through at most a thousand points, both ends of every stretch kept."""
    assert callable(x) and callable(y)
    step = max(1, len(times) // 1000)
    kept = [i for i in range(len(times)) if i % step == 0 or i == len(times) - 1]
    return "".join(
        f"{'L' if n else 'M'}{x(times[i]):.1f} {y(column[i]):.1f}" for n, i in enumerate(kept)
    )


if __name__ == "__main__":
    main()
