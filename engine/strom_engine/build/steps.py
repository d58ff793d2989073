"""The order of work: steps from the dry fit to power on, each with what is live after it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal
from zlib import crc32

from strom_engine.build.actions import Action, Site, done
from strom_engine.build.cuts import Piece
from strom_engine.build.difference import Work
from strom_engine.build.drafting import Draft, Phase
from strom_engine.build.moment import Hazard, LivePost, Moment
from strom_engine.build.planning import drafts
from strom_engine.build.stacks import Stack
from strom_engine.design import Design, LoadGroup

__all__ = ["DeadLoad", "Line", "Order", "Step", "order_of_work", "reordered"]

Stop = Literal["alive", "dead", "no"]
COLD_WORDS = ("fridge", "refrigerat", "freez", "icebox", "ice box")


@dataclass(frozen=True)
class Line:
    """A line of a step, ticked by its key: one that says something else is another line."""

    key: str
    words: str


@dataclass(frozen=True)
class Step:
    """A step: what is done where, with what, how long, and what is live once it is done.

    ``stop`` says whether work can rest after it: with the boat alive, with everything dead, or not.
    ``doing`` are the lines that are ticked, ``stacks`` the lugs that lie on each other.
    """

    key: str
    phase: Phase
    title: str
    place: str | None
    doing: tuple[Line, ...]
    needs: tuple[str, ...]
    minutes: float
    caution: str
    stacks: tuple[Stack, ...]
    actions: tuple[Action, ...]
    live: tuple[LivePost, ...]
    dead: tuple[str, ...]
    stop: Stop
    why_no_stop: str


@dataclass(frozen=True)
class DeadLoad:
    """A load that is dead for a part of the work: how long, and whether it must not be."""

    name: str
    minutes: float
    must_run: bool


@dataclass(frozen=True)
class Order:
    """The steps, how long all of it takes and the power is off [min], and what is dead then.

    ``start`` is what is live before the first step, with every contact closed.
    """

    start: tuple[LivePost, ...]
    steps: tuple[Step, ...]
    minutes: float
    off_minutes: float
    dead: tuple[DeadLoad, ...]
    shorter: tuple[str, ...]
    hazards: tuple[Hazard, ...]


def order_of_work(found: Design | None, chosen: Design, job: Work, cuts: Sequence[Piece]) -> Order:
    """A safe order in which a boat as found becomes the chosen design.

    Args:
        found: the boat as it is, as surveyed; None for a new boat.
        chosen: what it shall be, as surveyed.
        job: the work.
        cuts: pieces of new cable.

    Returns:
        Steps with minutes [min], each followed by a live map: volts [V], amps into a short [A].
    """
    site = Site(found, chosen, job)
    return _lived(site, drafts(site, cuts))


def reordered(
    found: Design | None,
    chosen: Design,
    job: Work,
    cuts: Sequence[Piece],
    keys: Sequence[str],
) -> Order:
    """The same steps in an order of one's own; its ``hazards`` say what speaks against it.

    Args:
        found: the boat as it is.
        chosen: what it shall be.
        job: the work.
        cuts: pieces of new cable.
        keys: steps by key; those that are not named follow in their usual order.
    """
    site = Site(found, chosen, job)
    usual = drafts(site, cuts)
    by_key = {d.key: d for d in usual}
    first = [by_key[k] for k in keys if k in by_key]
    rest = [d for d in usual if d.key not in set(keys)]
    return _lived(site, [*first, *rest])


def _lived(site: Site, plan: Sequence[Draft]) -> Order:
    moment = site.start
    steps: list[Step] = []
    hazards: list[Hazard] = []
    groups = _groups(site)
    for draft in plan:
        for action in draft.actions:
            hazards += _handled(site, moment, action, draft)
            after = done(site, moment, action)
            if after is not moment:
                hazards += [replace(h, words=f"{draft.title}: {h.words}") for h in after.hazards()]
            moment = after
        steps.append(_step(site, draft, moment, groups))
    off = [s for s in steps if s.phase in ("power off", "take out", "fit", "power on")]
    return Order(
        start=site.start.live,
        steps=tuple(steps),
        minutes=sum(s.minutes for s in steps),
        off_minutes=sum(s.minutes for s in off),
        dead=tuple(_dead_loads(groups, steps)),
        shorter=tuple(_shorter(steps)),
        hazards=tuple(dict.fromkeys(hazards)),
    )


def _handled(site: Site, moment: Moment, action: Action, draft: Draft) -> Iterable[Hazard]:
    """What an act does that must not be done at its moment, whatever comes after it."""
    for ref in action.handles:
        bank, _, post = ref.partition(".")
        part = moment.parts.get(bank)
        if part is None or part.kind != "bank" or post != "pos" or bank in moment.lifted:
            continue
        if any(f"{bank}.neg" in (c.start, c.end) for c in moment.cables.values()):
            words = f"{draft.title}: {part.name} + is handled with its negative on"
            yield Hazard("positive handled with the negative on", bank, words)
    if action.does in ("take cable", "land cable"):
        cable = site.cable(action)
        live = {p.post: p for p in moment.live}
        for end in {str(cable.start), str(cable.end)} & set(live):
            # One end is on before the other: in between it hangs.
            words = f"{draft.title}: an end hangs while the other is on {live[end].name}, live"
            yield Hazard("live loose end", cable.id, words)
    if action.does == "lift negative" and not moment.switches_off:
        name = moment.parts[action.about].name
        words = f"{draft.title}: {name} is taken off before engine, shore and sun are"
        yield Hazard("running source without a bank", action.about, words)


def _groups(site: Site) -> dict[str, LoadGroup]:
    """Loads that were fed before the work began, by id, as the boat was."""
    return {
        p.id: p
        for p in site.start.parts.values()
        if isinstance(p, LoadGroup) and p.items and site.start.fed(p)
    }


def _step(site: Site, draft: Draft, moment: Moment, groups: Mapping[str, LoadGroup]) -> Step:
    live = moment.live
    dead = tuple(
        g.name
        for g in groups.values()
        if g.id not in site.gone and not (g.id in moment.parts and moment.fed(g))
    )
    stop, why = _stop(site, draft, moment, dead)
    return Step(
        key=draft.key,
        phase=draft.phase,
        title=draft.title,
        place=draft.place,
        doing=tuple(_lines(draft)),
        needs=tuple(draft.needs),
        minutes=round(draft.minutes, 1),
        caution=draft.caution,
        stacks=tuple(draft.stacks),
        actions=tuple(draft.actions),
        live=live,
        dead=dead,
        stop=stop,
        why_no_stop=why,
    )


def _lines(draft: Draft) -> Iterator[Line]:
    """Lines with keys that follow their words, so that no tick moves to another line."""
    seen = Counter[str]()
    for words in draft.doing:
        seen[words] += 1
        yield Line(f"{draft.key}#{crc32(words.encode()):08x}{'x' * (seen[words] - 1)}", words)


def _stop(site: Site, draft: Draft, moment: Moment, dead: tuple[str, ...]) -> tuple[Stop, str]:
    """Whether work can rest after a step."""
    if any(True for _ in moment.hazards()):
        return "no", "something unsafe would be left"
    must = [g.name for g in site.must_run if g.name in dead]
    if must:
        return "dead", f"dead until it goes on: {', '.join(must)}"
    return ("dead", "the boat is dark") if dead else ("alive", "")


def _dead_loads(groups: Mapping[str, LoadGroup], steps: Sequence[Step]) -> list[DeadLoad]:
    found = []
    for group in groups.values():
        minutes = sum(s.minutes for s in steps if group.name in s.dead)
        if not minutes:
            continue
        for item in group.items:
            cold = any(word in item.name.lower() for word in COLD_WORDS)
            if item.always_on or cold:
                found.append(DeadLoad(item.name, round(minutes, 1), item.always_on))
    return sorted(found, key=lambda d: (not d.must_run, -d.minutes, d.name))


def _shorter(steps: Sequence[Step]) -> list[str]:
    """What shortens the time without power, and what already does."""
    before = sum(s.minutes for s in steps if s.phase in ("workshop", "board", "long leads"))
    late = sum(s.minutes for s in steps if s.key == "crimp:late")
    told = []
    if before:
        told.append(
            f"{before:.0f} min of crimping, fitting and wiring of the board are done before the "
            "power goes off."
        )
    if late:
        told.append(
            f"{late:.0f} min are cables with an estimated run: measure the runs on Survey, and "
            "they are made before."
        )
    return told
