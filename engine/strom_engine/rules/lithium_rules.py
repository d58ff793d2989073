"""Rules about the protection of lithium banks: BA-10, CH-18, SW-10."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from strom_engine.design import Alternator, Bank, LoadGroup, Protection
from strom_engine.rules.context import Context, Situation, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.runs.load_cases import LoadCase
from strom_engine.runs.surges import surge_cases

__all__ = ["RULES"]

BA10 = Rule(
    "BA-10",
    "The protection of a lithium bank passes what the boat draws",
    "All protections of a bank together, those inside its batteries too: for long against the "
    "largest lasting draw, for seconds against starters, thrusters and inverters that surge.",
    f"ABYC E-13, protection of lithium batteries; makers' manuals; {CONFIRM}",
)
CH18 = Rule(
    "CH-18",
    "Before its protection opens, what charges a lithium bank is stopped",
    "The warning contact of every protection: alternator field first, then chargers.",
    f"ABYC E-13, alarm and control of charging sources; {CONFIRM}",
)
SW10 = Rule(
    "SW-10",
    "What must live stays alive when the protection opens",
    "Everything that must always run, with the protection of each bank open and the engine off.",
    f"ABYC E-13, loss of a lithium bank; makers' manuals; {CONFIRM}",
)


@dataclass(frozen=True)
class _Drawn:
    """The largest draw from a bank [A], and in which state."""

    amps: float
    words: str


def passes(context: Context) -> Iterator[Finding]:
    """BA-10: draws above what the protections pass."""
    for bank in (b for b in context.banks if is_lithium(b)):
        guards = [p for p in context.design.of_type(Protection) if p.guards == bank.id]
        lasting_a, peak_a, lines = _limits(bank, guards)
        long = _largest(bank, context.strained)
        brief = _largest(bank, (*context.cranking, *(c for _, c in surge_cases(context.design))))
        parts = (bank.id, *(g.id for g in guards))
        if lasting_a is None:
            yield _unknown(bank, parts, long, brief)
            continue
        if long.amps > lasting_a:
            yield _too_much(bank, parts, "for long", long, lasting_a, lines)
        limit_a = peak_a if peak_a is not None else lasting_a
        if brief.amps > limit_a:
            known = peak_a is not None
            yield _too_much(bank, parts, "for seconds", brief, limit_a, lines, known=known)


def _limits(bank: Bank, guards: list[Protection]) -> tuple[float | None, float | None, list[str]]:
    """For long and for seconds [A]: the lesser of all protections and of all batteries."""
    longs, peaks, lines = [], [], []
    if guards:
        each = [min(g.discharge_limit_a or g.rating_a, g.rating_a) for g in guards]
        longs.append(sum(each))
        lines.append(f"{' + '.join(g.name for g in guards)}: {sum(each):g} A for long.")
        if all(g.peak_a is not None for g in guards):
            peaks.append(sum(g.peak_a or 0.0 for g in guards))
            lines.append(f"For seconds {peaks[-1]:g} A.")
    if bank.unit_discharge_a is not None:
        longs.append(bank.unit_discharge_a * bank.parallel)
        lines.append(
            f"{bank.parallel} in parallel x {bank.unit_discharge_a:g} A = {longs[-1]:g} A for long."
        )
        if bank.unit_peak_a is not None:
            peaks.append(bank.unit_peak_a * bank.parallel)
            lines.append(f"{bank.parallel} x {bank.unit_peak_a:g} A = {peaks[-1]:g} A for seconds.")
    # A limit that is missing on one side bounds nothing there: all must be known.
    known = len(peaks) == len(longs)
    return min(longs, default=None), min(peaks) if peaks and known else None, lines


def _largest(bank: Bank, cases: tuple[LoadCase, ...]) -> _Drawn:
    drawn = [
        _Drawn(-c.point.banks[bank.id].current_a, c.words)
        for c in cases
        if bank.id in c.point.banks
    ]
    return max(drawn, key=lambda d: d.amps, default=_Drawn(0.0, "nothing draws"))


def _too_much(
    bank: Bank,
    parts: tuple[str, ...],
    how: str,
    drawn: _Drawn,
    limit_a: float,
    lines: list[str],
    *,
    known: bool = True,
) -> Finding:
    return Finding(
        rule=BA10.id,
        severity="fault" if known else "cannot_tell",
        title=f"{bank.name} gives {drawn.amps:.0f} A {how}; its protection passes {limit_a:.0f} A"
        if known
        else f"Whether the protection of {bank.name} passes {drawn.amps:.0f} A for seconds is not "
        "known",
        arithmetic=(f"{drawn.words}: {drawn.amps:.0f} A.", *lines),
        figures=(Figure(f"Drawn {how}", drawn.amps, "A"), Figure("Passed", limit_a, "A")),
        limit=f"{limit_a:.0f} A",
        source=BA10.source,
        why="It opens at the worst moment, and everything on the bank is dark.",
        repair="More batteries in parallel, a stronger protection, or the heavy thing on a bank of "
        "its own.",
        parts=parts,
        missing=None
        if known
        else f"{bank.name}: what its protection passes for seconds, by its manual; enter it there.",
        about=how,
    )


def _unknown(bank: Bank, parts: tuple[str, ...], long: _Drawn, brief: _Drawn) -> Finding:
    return Finding(
        rule=BA10.id,
        severity="cannot_tell",
        title=f"What the protection of {bank.name} passes is not known",
        arithmetic=(
            f"{long.words}: {long.amps:.0f} A for long.",
            f"{brief.words}: {brief.amps:.0f} A for seconds.",
        ),
        figures=(Figure("For long", long.amps, "A"), Figure("For seconds", brief.amps, "A")),
        limit="the figures of the protection",
        source=BA10.source,
        why="A lithium bank without its protection burns; one that opens leaves all dark.",
        repair="Read them in the manual of the battery, and enter them there.",
        parts=parts,
        missing=f"{bank.name}: discharge for long and for seconds, by its manual; enter it there.",
        about="unknown",
    )


def warned(context: Context) -> Iterator[Finding]:
    """CH-18: sources that go on while a protection is about to open."""
    for guard in context.design.of_type(Protection):
        bank = context.design.by_id[guard.guards]
        reached = {
            name
            for positions in (context.drawn, context.joined)
            for name, banks in context.reach(
                Situation(positions, frozenset()), engine="on"
            ).charges.items()
            if bank.id in banks
        }
        stopped = {
            None: frozenset[str](),
            "nothing": frozenset[str](),
            "alternator": frozenset(s.id for s in context.sources if isinstance(s, Alternator)),
            "all": frozenset(s.id for s in context.sources),
        }[guard.warns]
        going_on = [s for s in context.sources if s.id in reached - stopped]
        if not going_on:
            continue
        unknown = guard.warns is None
        names = context.names([s.id for s in going_on])
        yield Finding(
            rule=CH18.id,
            severity="cannot_tell" if unknown else "fault",
            title=f"Whether {guard.name} warns before it opens is not known"
            if unknown
            else f"{guard.name} opens without stopping {names} first",
            arithmetic=(
                f"Reach {bank.name}: {names}.",
                "Its warning contact stops: "
                + ("not entered." if unknown else f"{guard.warns or 'nothing'}."),
            ),
            figures=(Figure("Sources that go on", float(len(going_on)), ""),),
            limit="0 sources go on",
            source=CH18.source,
            why="Cut off while they charge, they drive up the voltage of all that is still joined.",
            repair="Lead its warning contact to the alternator's field and to the chargers.",
            parts=(guard.id, *(s.id for s in going_on)),
            missing=f"{guard.name}: what its warning contact stops; look, enter it there."
            if unknown
            else None,
        )


def stays_alive(context: Context) -> Iterator[Finding]:
    """SW-10: what must always run and hangs on one protection."""
    for guard in context.design.of_type(Protection):
        closed = context.reach(Situation(context.drawn, frozenset()))
        opened = context.reach(Situation(context.drawn, frozenset({guard.id})))
        dead = [
            group
            for group in context.design.of_type(LoadGroup)
            if any(i.always_on for i in group.items)
            and group.id in opened.dead_loads
            and group.id not in closed.dead_loads
        ]
        if not dead:
            continue
        items = [i.name for group in dead for i in group.items if i.always_on]
        names = ", ".join(items)
        yield Finding(
            rule=SW10.id,
            severity="caution",
            title=f"When {guard.name} opens, {names} {'are' if len(items) > 1 else 'is'} dead",
            arithmetic=(f"{guard.name} open: banks that reach {names}: 0.",),
            figures=(Figure("Banks that reach it", 0.0, ""),),
            limit="1 bank",
            source=SW10.source,
            why="The bank that is empty or too cold is just the one that a leaking boat has left.",
            repair="Feed it from the engine bank, or from both banks by diodes of its own.",
            parts=(guard.id, *(g.id for g in dead)),
        )


RULES = ((BA10, passes), (CH18, warned), (SW10, stays_alive))
