"""The list of proving tests of a boat, in working order, each with its range."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from strom_engine.design import Design
from strom_engine.prove.charging import engine, sharing
from strom_engine.prove.cold import cold
from strom_engine.prove.loaded import loaded
from strom_engine.prove.power import positions, power_on
from strom_engine.prove.proving import Draft, ProvingTest, unsettled
from strom_engine.prove.ranges import Range, ranges
from strom_engine.prove.settings import setup_words
from strom_engine.prove.spread import BOATS, Today, boats_drawn

__all__ = ["as_tests", "proving_tests"]

PARTS = (cold, power_on, positions, sharing, engine, loaded)


def proving_tests(design: Design, today: Today | None = None) -> tuple[ProvingTest, ...]:
    """Every test that this boat has, in working order, with the range of each reading.

    Args:
        design: the boat as built, as surveyed.
        today: air [degC], rest volts [V], meters; as drawn and usual without.

    Returns:
        Tests with keys that stay while the design goes on changing.

    >>> from strom_engine.survey import new_boat, surveyed
    >>> survey, design = new_boat("day_boat", "on_off_each")
    >>> [t.key for t in proving_tests(surveyed(design, survey)) if t.group == "cold"][:2]
    ['switch:house_switch:off', 'switch:house_switch:on']
    """
    known = today or Today()
    drafts = [draft for part in PARTS for draft in part(design)]
    plain = replace(known, rest_v={})
    found: dict[str, Range | None] = {}
    for facts, unrested in ((plain, True), (known, False)):
        some = [d for d in drafts if d.probe is not None and d.unrested is unrested]
        if not some:
            continue
        wanted = [(d.probe, d.state, d.charged) for d in some if d.probe and d.state]
        boats = boats_drawn(design, facts, BOATS)
        found |= zip((d.key for d in some), ranges(boats, wanted, facts), strict=True)
    return as_tests(design, drafts, found)


def as_tests(
    design: Design, drafts: Sequence[Draft], found: Mapping[str, Range | None] | None = None
) -> tuple[ProvingTest, ...]:
    """Drafts in words, with their ranges where those were computed.

    Args:
        design: the boat as built.
        drafts: of tests or of readings to look for a fault with.
        found: ranges by key; one that is None is of a state in which the boat finds no rest.
    """
    return tuple(_tests(design, drafts, found))


def _tests(
    design: Design, drafts: Sequence[Draft], found: Mapping[str, Range | None] | None
) -> Iterator[ProvingTest]:
    names = {p.id: p.name for p in design.places}
    for draft in drafts:
        wanted = None
        if draft.probe is not None and found is not None:
            wanted = found[draft.key]
            if wanted is None and draft.state is not None:
                draft = unsettled(draft.key, draft.group, draft.title, draft.part, draft.state)
        part = design.by_id.get(draft.part)
        yield ProvingTest(
            key=draft.key,
            group=draft.group,
            title=draft.title,
            part=draft.part,
            place=names.get(part.place or "") if part else names.get(draft.part),
            how=draft.probe.words(design) if draft.probe else draft.how,
            setup=setup_words(design, draft.state) if draft.state else (),
            state=draft.state,
            probe=draft.probe,
            unit=draft.probe.unit if draft.probe else "",
            expects=draft.expects,
            wanted=wanted,
            proves_nothing=_proves_nothing(design, draft, wanted),
            misses=draft.misses,
            caution=draft.caution,
            minutes=draft.minutes,
            charged=draft.charged,
        )


def _proves_nothing(design: Design, draft: Draft, wanted: Range | None) -> str:
    """Why a range is too wide to tell anything, and what to find out first."""
    if wanted is None or draft.probe is None or wanted.half <= draft.useful:
        return ""
    wide = f"the range is {2 * wanted.half:.2g} {draft.probe.unit} wide and proves little"
    kind, _, name = (wanted.mostly or "").partition(":")
    if kind == "soc":
        return f"{wide}: measure the rest volts of {design.by_id[name].name} first"
    if kind == "length":
        return f"{wide}: measure {design.cable_name(design.cables_by_id[name])} first"
    return wide
