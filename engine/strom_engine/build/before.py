"""Steps that are done while the boat is alive: dry fit, workshop, board, long leads."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence

from strom_engine.build.actions import Action, Site
from strom_engine.build.cuts import THIN_MM2, Piece
from strom_engine.build.drafting import NOWHERE, Draft, by_place, crimp, land, places
from strom_engine.design import Bank, Fuse, Relay
from strom_engine.design.fields import PostRef
from strom_engine.design.state import Switch, battery_switches, position_name, switch_positions
from strom_engine.reference import work_minutes

__all__ = ["board", "dry_fit", "long_leads", "workshop"]

LONG_LEAD_M = 2.0


def dry_fit(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    new = [site.chosen.by_id[p.part] for p in site.job.parts_by("new")]
    stand = [p for p in new if p.facts.stands in ("gear", "bank", "source") or p.kind == "inverter"]
    for place, name, here in by_place(site, stand, lambda p: p.place):
        step = Draft(f"dry:{place}", "dry fit", f"Dry fit in {name}", place)
        for part in here:
            step.doing.append(f"Hold {part.name} where it goes: it fits, and its cables reach it.")
            if isinstance(part, Switch):
                step.doing.append(f"{part.name}: reached with seat and hatch as they are in use.")
            if isinstance(part, Fuse):
                step.doing.append(f"{part.name}: the cover closes over a fuse of this type.")
            if isinstance(part, Bank):
                step.doing.append(f"{part.name}: each battery can be lifted out past the board.")
            if isinstance(part, Relay):
                step.doing.append(f"{part.name}: a short cable away from both banks.")
            step.minutes += work_minutes("dry_fit")
        step.needs = [p.name for p in here]
        yield step


def workshop(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    for sort in dict.fromkeys(p.reel for p in cuts if not p.estimated):
        here = [p for p in cuts if p.reel == sort and not p.estimated]
        words = f"{sort[0]}, {sort[1]}"
        yield crimp(f"crimp:{sort[0]}:{sort[1]}:{sort[2]}", "workshop", words, here)
    new = {p.part for p in site.job.parts_by("new")}
    for switch in (s for s in battery_switches(site.chosen) if s.id in new):
        step = Draft(f"ohm:{switch.id}", "workshop", f"Ohmmeter on {switch.name}", switch.place)
        for position in switch_positions(switch):
            word = position_name(switch, position)
            step.doing.append(f"{switch.name} on {word}: note which posts are joined.")
        step.needs = ["ohmmeter", switch.name]
        step.minutes = work_minutes("switch_check")
        yield step


def board(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    """Gear that takes nothing's place, and the cables that run between such gear alone."""
    parts = [site.chosen.by_id[i] for i in site.board]
    for place, name, here in by_place(site, parts, lambda p: p.place):
        step = Draft(f"board:{place}", "board", f"New gear in {name}", place)
        for part in here:
            step.actions.append(Action("fit part", part.id))
            step.doing.append(f"{part.name}, {part.facts.word.lower()}: screwed down.")
            step.minutes += work_minutes("fit_part")
        step.caution = "Drill and screw away from what is live; nothing new is joined to it yet."
        yield step
    between = [p for p in cuts if p.cable in site.board_cables]
    measured = [p for p in between if p.estimated]
    if measured:
        step = crimp("crimp:board", "board", "what runs between new gear", measured)
        step.doing.insert(0, "Measure every piece where it runs, and enter the length.")
        yield step
    cables = [site.chosen.cables_by_id[p.cable] for p in between]
    groups = by_place(site, cables, lambda c: site.chosen.by_id[PostRef(c.end).part].place)
    for place, name, some in groups:
        step = Draft(f"wire:{place}", "board", f"Wire the new gear in {name}", place)
        land(step, site.chosen, some, set())
        step.caution = "Every fuse out: the board stays dead until its feed is landed at the end."
        yield step


def _long(p: Piece) -> bool:
    places = {e.place for e in p.ends}
    return not p.estimated and p.length_m >= LONG_LEAD_M and len(places) == 2


def long_leads(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    names = places(site)
    pairs: dict[tuple[str, str], list[Piece]] = defaultdict(list)
    for p in (p for p in cuts if _long(p) and p.cable not in site.board_cables):
        a, b = sorted(str(e.place) for e in p.ends)
        pairs[(a, b)].append(p)
    for (a, b), here in pairs.items():
        thin = sorted(here, key=lambda p: p.area_mm2)
        ends = f"{names.get(a, NOWHERE)} to {names.get(b, NOWHERE)}"
        step = Draft(f"pull:{a}:{b}", "long leads", f"Pull leads from {ends}")
        for p in thin:
            label = p.ends[0].label.split(" ")[0]
            step.doing.append(f"{label}: {p.gauge}, {p.cut_m:.2f} m, {p.name}.")
            per_m = "pull_thin_per_m" if p.area_mm2 <= THIN_MM2 else "pull_per_m"
            step.minutes += work_minutes(per_m) * p.cut_m
            step.actions.append(Action("lay cable", p.cable))
        step.doing.append("Both ends taped over and tied off: they touch nothing.")
        step.caution = "The boat is live: keep ends taped, and away from posts."
        step.needs = [p.ends[0].label.split(" ")[0] for p in thin]
        yield step
