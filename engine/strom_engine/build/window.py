"""Steps of the power-off window: everything off, take out, fit and land."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from strom_engine.build.actions import Action, Site
from strom_engine.build.cuts import THIN_MM2, Piece
from strom_engine.build.difference import CableWork
from strom_engine.build.drafting import (
    LIFT,
    NOWHERE,
    POWER_OFF,
    SPANNER,
    Draft,
    by_place,
    crimp,
    depths,
    land,
    places,
)
from strom_engine.design import Bank, Cable, Design, Fuse, FuseBlock
from strom_engine.design.fields import PostRef
from strom_engine.reference import work_minutes

__all__ = ["fit", "power_off", "take_out"]


def power_off(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    was = [b for b in site.found.of_type(Bank) if b.id in site.off_banks]
    if not was:
        return
    must = [g for g in site.must_run if g.id in site.found.by_id and site.start.fed(g)]
    if must:
        items = ", ".join(i.name for g in must for i in g.items if i.always_on)
        step = Draft("off:feed", "power off", "A temporary feed for what must run")
        step.doing = [
            f"Take {items} off the boat's wiring and feed it from a spare battery beside it, "
            "through a fuse of its own; or somebody stays aboard and looks into the bilge."
        ]
        step.needs = ["spare battery", "fused lead"]
        step.minutes = work_minutes("switch_check")
        yield step
    step = Draft("off:loads", "power off", "Everything off", caution=POWER_OFF)
    step.doing = [
        "Engine off, key out.",
        "Shore lead out; charger cold.",
        "Panels covered, or their breaker open.",
        "Every load off, then every switch and breaker off.",
        "Photograph the posts, and label what has no label.",
    ]
    step.minutes = work_minutes("power_off")
    step.actions = [Action("switches off")]
    yield step
    step = Draft("off:negatives", "power off", "Negatives off first", caution=SPANNER)
    for bank in was:
        step.doing.append(f"{bank.name}: every lug off its minus, taped and tied away.")
        step.actions.append(Action("lift negative", bank.id, "found", (f"{bank.id}.neg",)))
        step.minutes += work_minutes("negative_off")
    stays = {p.part for p in site.job.parts_by("stays", "set")}
    for part in site.found.components:
        if isinstance(part, Fuse | FuseBlock) and part.id in stays:
            step.doing.append(f"{part.name}: fuse out.")
            step.actions.append(Action("take fuse out", part.id, "found"))
            step.minutes += work_minutes("fuse_in")
    step.needs = ["spanners", "tape", "cloth"]
    yield step


def take_out(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    off = [c for c in site.job.cables_by("out", "again") if c.was is not None]
    found = site.found
    posts = {f"{b.id}.pos" for b in found.of_type(Bank)}

    def on_bank(one: CableWork) -> bool:
        cable = found.cables_by_id[one.was or ""]
        return bool({cable.start, cable.end} & posts)

    first = [c for c in off if on_bank(c)]
    step = Draft("out:posts", "take out", "Positives off the banks", caution=SPANNER)
    for one in first:
        _take(step, found, one, posts)
    yield step

    def place(one: CableWork) -> str | None:
        return found.by_id[PostRef(found.cables_by_id[one.was or ""].start).part].place

    rest = [c for c in off if not on_bank(c)]
    gone = site.job.parts_by("out")
    where = {p for p, _, _ in by_place(site, rest, place)} | {p.place for p in gone}
    names = places(site)
    for at in sorted(where, key=lambda p: names.get(p, NOWHERE)):
        step = Draft(f"out:in:{at}", "take out", f"Take out in {names.get(at, NOWHERE)}", at)
        for one in (c for c in rest if place(c) == at):
            _take(step, found, one, set())
        for part in (p for p in gone if p.place == at):
            step.doing.append(f"{part.name}: out.")
            step.actions.append(Action("take part", part.part, "found"))
            step.minutes += work_minutes("take_part")
            if part.kind == "bank":
                step.caution = LIFT
        yield step


def _take(step: Draft, found: Design, one: CableWork, posts: set[str]) -> None:
    cable = found.cables_by_id[one.was or ""]
    keeps = "off, it is used again" if one.fate == "again" else "out"
    step.doing.append(f"{found.cable_name(cable)}, {cable.gauge}: {keeps}.")
    handles = tuple(r for r in (cable.start, cable.end) if r in posts)
    step.actions.append(Action("take cable", cable.id, "found", handles))
    step.minutes += work_minutes("take_cable")


def fit(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    chosen = site.chosen
    new = [chosen.by_id[p.part] for p in site.job.parts_by("new") if p.part not in site.board]
    banks = [p for p in new if isinstance(p, Bank)]
    step = Draft("fit:batteries", "fit", "Batteries stand", caution=LIFT)
    for bank in banks:
        count = bank.series * bank.parallel
        trays = "a tray" if count == 1 else f"{count} trays"
        step.doing.append(f"{bank.name}: holes sealed, {trays}, batteries turned, strapped.")
        step.actions.append(Action("fit part", bank.id))
        step.minutes += work_minutes("fit_battery") * count
    yield step
    for place, name, here in by_place(
        site, [p for p in new if not isinstance(p, Bank)], lambda p: p.place
    ):
        step = Draft(f"fit:gear:{place}", "fit", f"Gear in {name}", place)
        for part in here:
            step.actions.append(Action("fit part", part.id))
            step.doing.append(f"{part.name}, {part.facts.word.lower()}: screwed down.")
            step.minutes += work_minutes("fit_part")
        yield step
    late = [p for p in cuts if p.estimated and p.cable not in site.board_cables]
    if late:
        step = crimp("crimp:late", "fit", "what had to be measured first", late)
        step.doing.insert(0, "Measure every piece where it runs, and enter the length.")
        yield step
    yield from _landing(site)
    step = Draft("fit:settings", "fit", "Settings")
    for one in site.job.parts_by("set"):
        step.doing.append(f"{one.name}: {one.words}.")
        step.minutes += work_minutes("switch_check")
    yield step


def _landing(site: Site) -> Iterator[Draft]:
    """Negatives, thin leads, positives from the far end towards the banks, banks last."""
    chosen = site.chosen
    jobs = [c.cable for c in site.job.cables_by("new", "again") if c.cable]
    cables = [chosen.cables_by_id[i] for i in jobs if i not in site.board_cables]
    polarity = chosen.post_polarity
    posts = {f"{b.id}.{p}" for b in chosen.of_type(Bank) for p in ("pos", "neg")}
    depth = depths(chosen)

    def on_bank(cable: Cable) -> bool:
        return bool({cable.start, cable.end} & posts)

    negative = [c for c in cables if polarity[c.start] == "neg"]
    thin = [c for c in cables if c not in negative and c.area_mm2 <= THIN_MM2 and not on_bank(c)]
    positive = [c for c in cables if c not in negative and c not in thin]
    far = sorted(positive, key=lambda c: -max(depth.get(c.start, 0), depth.get(c.end, 0)))
    sets = (
        ("neg", "Negatives", [c for c in negative if not on_bank(c)]),
        ("thin", "Thin leads", thin),
        ("pos", "Positives, far ends first", [c for c in far if not on_bank(c)]),
    )
    for key, words, here in sets:
        groups = by_place(site, here, lambda c: chosen.by_id[PostRef(c.end).part].place)
        for place, name, some in groups:
            step = Draft(f"land:{key}:{place}", "fit", f"{words}: {name}", place)
            land(step, chosen, some, posts)
            yield step
    step = Draft("land:banks", "fit", "Positives onto the banks", caution=SPANNER)
    land(step, chosen, [c for c in far if on_bank(c)], posts)
    step.doing += ["Boots on."] if step.doing else []
    yield step
    step = Draft(
        "land:bank-negatives", "fit", "Minus leads made ready at the banks", caution=SPANNER
    )
    land(step, chosen, [c for c in negative if on_bank(c)], posts)
    step.doing += (
        ["They stay off the posts, taped, until all is looked over."] if step.doing else []
    )
    yield step
