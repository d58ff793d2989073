"""What may be wrong, by records: single faults, each run through the recorded plan."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import exp

from strom_engine.design import Alternator, Bank, Charger, Design, Relay, Solar
from strom_engine.design.fields import PostRef
from strom_engine.errors import FaultError
from strom_engine.faults import Effects, Fault, effects_of
from strom_engine.records.expected import RecordedPlan, play
from strom_engine.records.figures import MOST_DOUBTS, RecordFigure, figures_of
from strom_engine.records.happened import Happened
from strom_engine.records.spells import DrivenBy, Shunted
from strom_engine.reference import BLOCK_V
from strom_engine.survey import Survey, SurveyedDesign

__all__ = ["RecordCause", "Suspect", "causes_by", "suspects"]

# How often each is met, on one scale; own judgement, as for readings by a meter.
OFTEN = {
    "nothing": 4.0,
    "none of these": 0.3,
    "added_resistance": 1.0,
    "sense_off": 1.0,
    "set_low": 1.0,
    "source_limited": 1.5,
    "source_fading": 1.0,
    "source_dead": 1.5,
    "lost_capacity": 1.5,
    "standing_draw": 1.5,
    "stuck_open": 1.0,
}
CHARGE_PATH_OHM = (0.01, 0.03)
DRAWN_A = (0.8, 3.0)
LEFT = (0.6, 0.3)
FADING = (0.4,)
LOST = (0.3, 0.5)
SET_LOW_V = (0.4, 0.8)
SHOWN, LEAST_SHARE = 6, 0.01
SAME_DOUBTS = 0.7
NONE = "none of these"
NONE_DOUBTS = 2.0  # a cause that is not listed leaves every figure so far off


@dataclass(frozen=True)
class RecordCause:
    """A cause with its share of belief [-], what it would look like, and what to do first.

    ``faults`` are its keys, those too that the records cannot part from it.
    """

    faults: tuple[str, ...]
    words: tuple[str, ...]
    share: float
    speaks: tuple[str, ...]
    look: str


@dataclass(frozen=True)
class Suspect:
    """A single fault that records could show, in its magnitudes, and where to look for it."""

    kind: str
    key: str
    words: str
    look: str
    effects: tuple[Effects, ...]


def causes_by(
    design: SurveyedDesign,
    survey: Survey,
    plan: RecordedPlan,
    shunt: Shunted,
    record: Happened,
    plain: Sequence[RecordFigure],
) -> tuple[RecordCause, ...]:
    """Single faults by how near each brings the run to the record, the likeliest first.

    Args:
        design: the boat, as surveyed.
        survey: loads, sun.
        plan: what was recorded, as a plan.
        shunt: where the records come from.
        record: what was found in the record.
        plain: figures against the boat as designed.
    """
    bank = shunt.of(design)
    weighed = [("nothing", "nothing is wrong", "", tuple(plain), _fit(plain, plain), "nothing")]
    strange = -0.5 * NONE_DOUBTS**2 * len(plain)
    weighed.append((NONE, NONE, "readings by a meter: see Prove", (), strange, NONE))
    for suspect in suspects(design, bank, shunt.driven):
        best: tuple[float, tuple[RecordFigure, ...]] | None = None
        for effects in suspect.effects:
            played = play(design, survey, plan, shunt, effects)
            if played is None:
                continue
            figures = tuple(figures_of(record, played.told, bank))
            fit = _fit(figures, plain)
            if best is None or fit > best[0]:
                best = fit, figures
        if best is not None:
            weighed.append(
                (suspect.key, suspect.words, suspect.look, best[1], best[0], suspect.kind)
            )
    top = max(w[4] for w in weighed)
    shares = [OFTEN[w[5]] * exp(w[4] - top) for w in weighed]
    total = sum(shares)
    ranked = sorted(zip(shares, weighed, strict=True), key=lambda pair: -pair[0])
    found: list[tuple[RecordCause, tuple[RecordFigure, ...]]] = []
    for share, (key, words, look, figures, _, _) in ranked:
        part = share / total
        if part < LEAST_SHARE:
            break
        at = next((n for n, (_, other) in enumerate(found) if _alike(figures, other)), None)
        if at is not None and key != "nothing" and found[at][0].faults != ("nothing",):
            known = found[at][0]
            grown = replace(
                known,
                faults=(*known.faults, key),
                words=(*known.words, words),
                share=known.share + part,
            )
            found[at] = grown, found[at][1]
        else:
            told = RecordCause((key,), (words,), part, tuple(_speaks(figures, plain)), look)
            found.append((told, figures))
    return tuple(sorted((c for c, _ in found), key=lambda c: -c.share))[:SHOWN]


def _fit(figures: Sequence[RecordFigure], plain: Sequence[RecordFigure]) -> float:
    """Log likelihood of the record; a figure that a cause takes away counts as far apart."""
    known = {f.key: f for f in figures}
    total = 0.0
    for figure in plain:
        mine = known.get(figure.key)
        apart = MOST_DOUBTS / 2 if mine is None else min(abs(mine.doubts_apart), MOST_DOUBTS)
        total -= 0.5 * apart**2
    return total


def _alike(one: Sequence[RecordFigure], two: Sequence[RecordFigure]) -> bool:
    """Whether two causes would look the same in the records."""
    other = {f.key: f for f in two}
    return {f.key for f in one} == set(other) and all(
        abs(f.expected - other[f.key].expected) < SAME_DOUBTS * f.doubt for f in one
    )


def _speaks(figures: Sequence[RecordFigure], plain: Sequence[RecordFigure]) -> Iterator[str]:
    """In numbers what it would be with a cause, where that differs from the boat as designed."""
    designed = {f.key: f for f in plain}
    for figure in figures:
        before = designed.get(figure.key)
        if before is not None and abs(before.doubts_apart) >= 1.0:
            yield figure.title()


def suspects(design: Design, bank: Bank, driven: DrivenBy) -> Iterator[Suspect]:
    """Every single fault that records of a bank could show.

    Args:
        design: the boat, as surveyed.
        bank: the bank with the shunt.
        driven: what charged it beside the sun; a source that was not used is no suspect.
    """
    yield from _sources(design, driven)
    yield from _sharing(design)
    draws = [Fault(kind="standing_draw", part=bank.id, magnitude=a) for a in DRAWN_A]
    yield from _of(
        design,
        draws,
        f"something unlisted draws from {bank.name}",
        "with everything off, a clamp on the bank's negative; pull fuses until it stops",
    )
    lost = [Fault(kind="lost_capacity", part=bank.id, magnitude=share) for share in LOST]
    yield from _of(
        design,
        lost,
        f"{bank.name} has lost capacity",
        "discharge it at a known load to its end, and count",
    )


def _sources(design: Design, driven: DrivenBy) -> Iterator[Suspect]:
    for source in design.components:
        if not isinstance(source, Alternator | Charger | Solar):
            continue
        idle: type = {"engine": Charger, "shore": Alternator}.get(driven, type(None))
        if isinstance(source, idle):
            continue
        name = source.name
        if isinstance(source, Solar):
            yield from _of(
                design,
                [Fault(kind="source_dead", part=source.id)],
                f"{name} gives nothing",
                "its fuse and controller, in the sun",
            )
            continue
        limited = [Fault(kind="source_limited", part=source.id, magnitude=m) for m in LEFT]
        yield from _of(
            design,
            limited,
            f"{name} gives too little: belt, phase, diode, limit",
            "its amps with a clamp against its label, bank low",
        )
        lower = tuple(_set_lower(design, source, volts) for volts in SET_LOW_V)
        yield Suspect(
            "set_low",
            f"set_low {source.id}",
            f"{source.name} is set too low, or senses volts that its bank does not have",
            "its volts at its own posts and at the bank, absorbing, against its setting",
            lower,
        )
        yield from _path(design, source)
        if isinstance(source, Alternator):
            fading = [Fault(kind="source_fading", part=source.id, magnitude=m) for m in FADING]
            yield from _of(
                design,
                fading,
                f"{name} fades as it warms up",
                "hold it at load for 45 minutes with a clamp on",
            )
            if source.sensing == "external":
                yield from _of(
                    design,
                    [Fault(kind="sense_off", part=source.id)],
                    f"a sense wire of {name} is off",
                    "its sense wires, at the regulator",
                )


def _set_lower(design: Design, source: Alternator | Charger, volts_v: float) -> Effects:
    """A design in which a source holds less than it is set to [V at 12 V]."""
    lower = {"set_v": source.set_v - volts_v * design.nominal_v(source) / BLOCK_V}
    parts = (p.model_copy(update=lower) if p.id == source.id else p for p in design.components)
    return Effects(design.replace_unchecked(components=tuple(parts)))


def _path(design: Design, source: Alternator | Charger) -> Iterator[Suspect]:
    """Resistance in a lead of a source, plus and minus apart."""
    for post, side in ((source.charging_posts()[0], "positive"), ("neg", "negative")):
        for cable in design.cables_on(PostRef.of(source.id, post))[:1]:
            faults = [
                Fault(kind="added_resistance", part=cable.id, at="end", magnitude=ohm)
                for ohm in CHARGE_PATH_OHM
            ]
            yield from _of(
                design,
                faults,
                f"resistance in the {side} lead of {source.name}: {design.cable_name(cable)}",
                f"volts lost along the {side} lead while it charges",
            )


def _sharing(design: Design) -> Iterator[Suspect]:
    for relay in design.of_type(Relay):
        yield from _of(
            design,
            [Fault(kind="stuck_open", part=relay.id)],
            f"{relay.name} never closes",
            "its lamp and click with a charger on the sensed side",
        )


def _of(design: Design, faults: Sequence[Fault], words: str, look: str) -> Iterator[Suspect]:
    found = []
    for fault in faults:
        try:
            found.append(effects_of(design, fault))
        except FaultError:
            continue
    if found:
        key = faults[0].model_copy(update={"magnitude": None}).key
        yield Suspect(faults[0].kind, key, words, look, tuple(found))
