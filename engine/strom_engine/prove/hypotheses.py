"""What may be wrong with a boat: faults with how often they come, and what cures each."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from strom_engine.design import (
    Alternator,
    Bank,
    BusBar,
    Charger,
    DcDc,
    Design,
    LoadGroup,
    Solar,
)
from strom_engine.design.fields import PostRef
from strom_engine.design.sides import post_sides
from strom_engine.errors import FaultError
from strom_engine.faults import Fault, FaultKind, effects_of, possible_faults

__all__ = ["HEALTHY", "NONE_OF_THESE", "Hypothesis", "hypotheses"]

HEALTHY, NONE_OF_THESE = "healthy", "none of these"
# How often each is met beside the others; own judgement from what the trade tells: bad
# terminations and weak banks first, swapped and shorted gear last. Only their ratios count.
OFTEN: dict[FaultKind, float] = {
    "added_resistance": 1.0,
    "bank_resistance": 2.0,
    "cable_open": 0.3,
    "contact_open": 0.3,
    "dead_cell": 1.5,
    "diode_open": 0.5,
    "diode_short": 0.3,
    "fuse_open": 1.0,
    "negative_open": 0.6,
    "sense_off": 1.0,
    "source_dead": 2.0,
    "source_fading": 0.6,
    "source_limited": 1.5,
    "standing_draw": 1.5,
    "stuck_closed": 0.7,
    "stuck_open": 2.0,
    "wrong_landing": 0.5,
}
HEALTHY_ODDS = 20.0  # of a boat with nothing wrong, on the same scale
NONE_SHARE = 0.005  # of all causes: one that is not listed
# Resistances [ohm] that a bad crimp, stud or contact has: from what only a starter shows to what
# a lamp shows.
JOINT_OHM = (0.002, 0.006, 0.025, 0.15)
BANK_FACTORS_OHM = (0.01, 0.03)
DRAWN_A = (0.5, 2.0, 8.0)  # what somebody left on, or a leak
LEFT = (0.65, 0.2)  # of what a source can give
CURES: dict[FaultKind, str] = {
    "added_resistance": "cut the lug off and crimp anew, clean the stud, torque it, measure again",
    "bank_resistance": "load-test each battery alone, and replace what is weak",
    "cable_open": "find its other end, and renew it",
    "contact_open": "renew the contact or the switch",
    "dead_cell": "load-test each battery alone, and replace the bank's battery",
    "diode_open": "replace the isolator",
    "diode_short": "replace the isolator",
    "fuse_open": "find why it opened, then put in one of the same rating",
    "negative_open": "clean and torque the negative, measure its drop again",
    "sense_off": "land the sense wires on the bank, through their fuse",
    "source_dead": "check its fuse, field and regulator, then have it tested",
    "source_fading": "hold it at load for 45 minutes with a clamp on; then have it rebuilt",
    "source_limited": "belt, then phases and diodes on the bench",
    "standing_draw": "pull fuses one by one with a clamp on the bank's negative until it stops",
    "stuck_closed": "replace the relay, and look for what welded it",
    "stuck_open": "check its own negative, its fuse and its sensing leads; then replace it",
    "wrong_landing": "land it where the drawing has it, or correct the drawing",
}


@dataclass(frozen=True)
class Hypothesis:
    """One cause with the magnitudes that it may have, how often it comes, and its cure."""

    key: str
    words: str
    variants: tuple[tuple[Fault, ...], ...]
    odds: float
    cure: str
    part: str


def hypotheses(design: Design) -> tuple[Hypothesis, ...]:
    """Everything single that may be wrong, with nothing and with none of these.

    Args:
        design: the boat as built, as surveyed.
    """
    found = [
        Hypothesis(HEALTHY, "nothing is wrong", ((),), HEALTHY_ODDS, "", ""),
        *_single(design),
        *_joints(design),
        *_weak(design),
        *_landings(design),
    ]
    causes = sum(h.odds for h in found if h.key != HEALTHY) or 1.0
    none = Hypothesis(NONE_OF_THESE, "none of these", (), NONE_SHARE * causes, "", "")
    return (*found, none)


def _single(design: Design) -> Iterator[Hypothesis]:
    for fault in possible_faults(design):
        if fault.kind == "source_fading":
            continue  # an operating point has it cold: traces over time tell it
        yield _of(fault.kind, fault.words, fault.part, (fault,))


def _of(kind: FaultKind, words: str, part: str, faults: tuple[Fault, ...]) -> Hypothesis:
    return Hypothesis(
        key=faults[0].model_copy(update={"magnitude": None}).key,
        words=words,
        variants=tuple((f,) for f in faults),
        odds=OFTEN[kind],
        cure=CURES[kind],
        part=part,
    )


def _joints(design: Design) -> Iterator[Hypothesis]:
    """A bad termination or conductor in every cable, a bad contact in every part that joins."""
    for cable in design.cables:
        faults = tuple(
            Fault(kind="added_resistance", part=cable.id, at="end", magnitude=ohm)
            for ohm in JOINT_OHM
        )
        name = design.cable_name(cable)
        words = f"resistance in {name}: a crimp, a stud, or thinner than drawn"
        yield _of("added_resistance", words, cable.id, faults)
        gone = Fault(kind="cable_open", part=cable.id)
        yield _of("cable_open", f"{name} is broken or off", cable.id, (gone,))
    for part in design.components:
        if isinstance(part, BusBar):
            continue  # one piece of metal
        first = Counter(a for a, _ in part.joins())
        for a, b in part.joins():
            named = b if first[a] > 1 else a  # a fuse of a block by its own post
            faults = tuple(
                Fault(kind="added_resistance", part=part.id, at=named, magnitude=ohm)
                for ohm in JOINT_OHM
            )
            try:
                effects_of(design, faults[0])
            except FaultError:
                continue
            ends = f"{a} to {b}".replace("_", " ")
            words = f"resistance in {part.name}, {ends}: burnt contact or loose stud"
            yield _of("added_resistance", words, part.id, faults)


def _weak(design: Design) -> Iterator[Hypothesis]:
    for bank in design.of_type(Bank):
        scale = bank.series * bank.unit_v / 12
        faults = tuple(
            Fault(kind="bank_resistance", part=bank.id, magnitude=ohm * scale)
            for ohm in BANK_FACTORS_OHM
        )
        yield _of(
            "bank_resistance", f"{bank.name} is worn: its resistance is high", bank.id, faults
        )
        draws = tuple(Fault(kind="standing_draw", part=bank.id, magnitude=amps) for amps in DRAWN_A)
        yield _of("standing_draw", f"something unlisted draws from {bank.name}", bank.id, draws)
    for source in design.components:
        if isinstance(source, Alternator | Charger | Solar | DcDc):
            faults = tuple(
                Fault(kind="source_limited", part=source.id, magnitude=left) for left in LEFT
            )
            words = f"{source.name} gives too little: belt, phase, diode, limit"
            yield _of("source_limited", words, source.id, faults)


def _landings(design: Design) -> Iterator[Hypothesis]:
    """A feed on another bank than drawn."""
    sides = post_sides(design)
    banks = design.of_type(Bank)
    for group in design.of_type(LoadGroup):
        for cable in design.cables_on(f"{group.id}.pos"):
            end = "end" if cable.start == f"{group.id}.pos" else "start"
            now = cable.end if end == "end" else cable.start
            for bank in banks:
                to = PostRef.of(bank.id, "pos")
                if to == now or sides[to] != sides[now]:
                    continue
                fault = Fault(kind="wrong_landing", part=cable.id, at=end, to=to)
                words = f"{group.name} hangs on {bank.name}, not where it is drawn"
                yield _of("wrong_landing", words, group.id, (fault,))
