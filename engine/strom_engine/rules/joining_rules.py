"""Rules about what joins banks: CH-2, CH-3, CH-14."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from strom_engine.design import DcDc, Isolator, OneWayCombiner, Relay, SetPart, Starter
from strom_engine.reference import chemistry
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "Sharing"]

REST = frozenset[str]()
UNLIKE_SIZE = 1.5
UNLIKE_AGE_YEARS = 2.0
Sharing = Relay | DcDc | OneWayCombiner

CH2 = Rule(
    "CH-2",
    "Banks that are joined for long are of like size and age",
    "Capacity and age of every pair of banks that a position joins.",
    f"Trade practice; the schools disagree: never, or fine within one chemistry; {CONFIRM}",
)
CH3 = Rule(
    "CH-3",
    "What shares charge is rated for the largest current that can pass",
    "Computed current through each relay and isolator, and the sources that can drive it.",
    f"ABYC E-11; makers' manuals of combining relays and isolators; {CONFIRM}",
)
CH14 = Rule(
    "CH-14",
    "No two devices do the same, and none drives another round",
    "Pairs of banks with more than one device that shares charge between them.",
    f"Trade practice; makers' manuals of dc-dc chargers; {CONFIRM}",
)


def unlike_size(context: Context) -> Iterator[Finding]:
    """CH-2: banks of unlike size or age that a switch joins."""
    seen: set[tuple[str, str]] = set()
    for positions in context.combinations:
        for joined in context.reach(Situation(positions, REST)).joined_banks:
            for first, second in combinations(sorted(joined), 2):
                if (first, second) not in seen:
                    seen.add((first, second))
                    yield from _unlike(context, first, second, positions)


def _unlike(
    context: Context, first: str, second: str, positions: dict[str, str]
) -> Iterator[Finding]:
    a, b = (bank for i in (first, second) for bank in context.banks if bank.id == i)
    large, small = max(a.capacity_ah, b.capacity_ah), min(a.capacity_ah, b.capacity_ah)
    ages = (
        None if None in (a.age_years, b.age_years) else abs((a.age_years or 0) - (b.age_years or 0))
    )
    old = ages is not None and ages > UNLIKE_AGE_YEARS
    if chemistry(a.chemistry).family != chemistry(b.chemistry).family:
        return
    if large / small <= UNLIKE_SIZE and not old:
        return
    lines = [
        f"{context.positions_words(positions)}: {a.name} {a.capacity_ah:.0f} Ah, "
        f"{b.name} {b.capacity_ah:.0f} Ah: {large:.0f} / {small:.0f} = {large / small:.1f}."
    ]
    if ages is not None:
        lines.append(f"Ages {a.age_years:g} and {b.age_years:g} years: {ages:g} years apart.")
    yield Finding(
        rule=CH2.id,
        severity="note",
        title=f"{a.name} and {b.name} can be joined, unlike in {'age' if old else 'size'}",
        arithmetic=tuple(lines),
        figures=(
            Figure("Larger by", large / small, "x"),
            *((Figure("Years apart", ages, "a"),) if ages is not None else ()),
        ),
        limit=f"a factor of {UNLIKE_SIZE:g}, {UNLIKE_AGE_YEARS:g} years; by school",
        source=CH2.source,
        why="While joined they charge as one, and the weaker one is carried by the other.",
        repair="Join them for charging or in an emergency only; never leave them in parallel.",
        parts=(a.id, b.id),
    )


def sharing_rating(context: Context) -> Iterator[Finding]:
    """CH-3: relays by what passes and what could; isolators by what stands before them."""
    for relay in context.design.of_type(Relay):
        amps, words = 0.0, context.strained[0].words
        for load_case in context.strained:
            through = abs(load_case.point.conductor_a.get(f"{relay.id}.a", 0.0))
            if through > amps:
                amps, words = through, load_case.words
        most = max(_sources_a(context, relay, post) for post in ("a", "b"))
        if max(amps, most) > relay.rating_a:
            yield _too_small(context, relay, amps, most, words)
        yield from _in_a_start(context, relay)
    for isolator in context.design.of_type(Isolator):
        most = max(
            (
                _sources_a(context, isolator, post)
                for post in isolator.posts()
                if post in ("in", "in2")
            ),
            default=0.0,
        )
        if most > isolator.rating_a:
            yield _too_small(context, isolator, most, most, "all that stands before it")


def _in_a_start(context: Context, relay: Relay) -> Iterator[Finding]:
    """What passes a relay that is closed when an engine is started, against its peak rating."""
    if relay.peak_a is None or relay.start_isolation or not context.design.of_type(Starter):
        return
    point = context.point(cranking=True, previous_states={relay.id: "closed"})
    through_a = abs(point.conductor_a.get(f"{relay.id}.a", 0.0))
    if through_a <= relay.peak_a:
        return
    yield Finding(
        rule=CH3.id,
        severity="fault",
        title=f"{relay.name}, {relay.peak_a:.0f} A for seconds, sees {through_a:.0f} A in a start",
        arithmetic=(
            f"Closed while the engine is started as drawn: {through_a:.0f} A through it; its peak "
            f"rating {relay.peak_a:.0f} A.",
        ),
        figures=(Figure("In a start", through_a, "A"), Figure("Peak rating", relay.peak_a, "A")),
        limit=f"{relay.peak_a:.0f} A for seconds",
        source=CH3.source,
        why="Its contact welds, and the banks are joined for good.",
        repair="Start isolation, so that it is open while an engine is started.",
        parts=(relay.id,),
        change=SetPart(part=relay.id, fields={"start_isolation": True}),
        about="start",
    )


def _sources_a(context: Context, part: Relay | Isolator, post: str) -> float:
    """Rated amps of the sources that land on the same metal as a post, as drawn."""
    net = context.network(Situation(context.drawn, REST))
    at = net.group(f"{part.id}.{post}")
    return sum(
        source.label_a
        for source in context.sources
        if any(net.group(f"{source.id}.{out}") == at for out in source.posts())
    )


def _too_small(
    context: Context, part: Relay | Isolator, amps: float, most: float, words: str
) -> Finding:
    return Finding(
        rule=CH3.id,
        severity="fault" if amps > part.rating_a else "caution",
        title=f"{part.name} of {part.rating_a:.0f} A can see {max(amps, most):.0f} A",
        arithmetic=(
            f"Computed, {words}: {amps:.0f} A through it.",
            f"Sources on one side of it by their labels: {most:.0f} A; "
            f"rating {part.rating_a:.0f} A.",
        ),
        figures=(
            Figure("Computed", amps, "A"),
            Figure("Sources on one side", most, "A"),
            Figure("Rating", part.rating_a, "A"),
        ),
        limit=f"{part.rating_a:.0f} A, continuous; about 85 % of a printed peak",
        source=CH3.source,
        why="Its contact welds, or its fuse opens and the other bank is charged no more.",
        repair=f"Fit one of at least {max(amps, most):.0f} A continuous.",
        parts=(part.id,),
    )


def doubled(context: Context) -> Iterator[Finding]:
    """CH-14: more than one sharing device between the same two banks."""
    ways: dict[frozenset[str], list[tuple[Sharing, str, str]]] = {}
    for part in context.design.components:
        if isinstance(part, Sharing):
            ends = ("a", "b") if isinstance(part, Relay) else ("in", "out")
            banks = [_bank_at(context, f"{part.id}.{post}") for post in ends]
            if banks[0] and banks[1] and banks[0] != banks[1]:
                pair = frozenset(str(b) for b in banks)
                ways.setdefault(pair, []).append((part, str(banks[0]), str(banks[1])))
    for found in ways.values():
        if len(found) > 1:
            yield _doubled(context, found)


def _bank_at(context: Context, ref: str) -> str | None:
    """The bank on whose metal a post is, every switch off and everything at rest."""
    net = context.network(Situation(context.all_off(), REST))
    on = [b.id for b in context.banks if net.group(f"{b.id}.pos") == net.group(ref)]
    return on[0] if len(on) == 1 else None


def _doubled(context: Context, found: list[tuple[Sharing, str, str]]) -> Finding:
    parts = [part for part, _, _ in found]
    chargers = [(a, b) for part, a, b in found if not isinstance(part, Relay)]
    relays = [part for part in parts if isinstance(part, Relay)]
    round_about = bool(relays and chargers) or any((b, a) in chargers for a, b in chargers)
    return Finding(
        rule=CH14.id,
        severity="fault" if round_about else "caution",
        title=f"{context.names([p.id for p in parts])} stand between the same banks",
        arithmetic=(
            f"Devices between {context.names(sorted({found[0][1], found[0][2]}))}: {len(parts)}, "
            f"relays {len(relays)}, one-way ones {len(chargers)}.",
        ),
        figures=(Figure("Devices", float(len(parts)), ""),),
        limit="1 device between two banks",
        source=CH14.source,
        why="What one gives the other takes back, at a loss, for as long as both are on."
        if round_about
        else "One of them works for nothing, and hides it when the other fails.",
        repair=f"Take out all but one of {context.names([p.id for p in parts])}.",
        parts=tuple(p.id for p in parts),
    )


RULES = (
    (CH2, unlike_size),
    (CH3, sharing_rating),
    (CH14, doubled),
)
