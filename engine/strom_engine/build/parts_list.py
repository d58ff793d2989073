"""The parts list: all that has to lie on the bench, from batteries to clips, with what it costs."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

from strom_engine.build.cuts import SHRINK_MM, THIN_MM2, CutEnd, Piece, end_of
from strom_engine.build.difference import Work
from strom_engine.build.labels import labels
from strom_engine.design import (
    Bank,
    Breaker,
    BusBar,
    Component,
    Design,
    Fuse,
    FuseBlock,
    LoadGroup,
    Relay,
    Starter,
)
from strom_engine.design.state import battery_switches
from strom_engine.reference import chemistry, device_type, shrink_bore_mm
from strom_engine.runs.run_rows import COPPER_KG_PER_M_MM2
from strom_engine.runs.stock import GearPrice, Stock

__all__ = ["CLIP_EVERY_M", "PartsLine", "PartsList", "parts_list"]

CLIP_EVERY_M = 0.455  # ABYC E-11, support of conductors
WASTE_SHARE = 0.05  # of cable that is bought for what goes wrong; own judgement
FASTENERS_EACH = 4
TIE_EVERY_M = 1.0
GROUPS = (
    "Batteries", "Switches and gear", "Fuses and breakers", "Bars", "Cable", "Lugs", "Shrink",
    "Support and seal", "Labels",
)  # fmt: skip


@dataclass(frozen=True)
class PartsLine:
    """A line: what, how many of which unit, what it is for; price each, kept in stock, to buy.

    ``to_buy`` is what is not in stock, ``cost`` what all of it costs; None without a price.
    ``item`` is the same for the same thing in every job: prices are kept by it. ``check`` is what
    is read off the label when it comes.
    """

    key: str
    item: str
    group: str
    what: str
    unit: str
    needed: float
    purpose: str
    check: str = ""
    kept: float = 0.0
    to_buy: float = 0.0
    price: float | None = None
    cost: float | None = None
    instead: str = ""
    note: str = ""


@dataclass(frozen=True)
class PartsList:
    """Lines by group, their sum, how many have no price, and copper in new cable [kg]."""

    lines: tuple[PartsLine, ...]
    cost: float
    unpriced: int
    copper_kg: float
    currency: str


def parts_list(
    chosen: Design, job: Work, cuts: Iterable[Piece], stock: Stock | None = None
) -> PartsList:
    """All that is needed to build a design from what is aboard.

    Args:
        chosen: the design to be built, as surveyed.
        job: the work.
        cuts: pieces of new cable.
        stock: the workshop's prices and what it keeps.

    Returns:
        Pieces and metres [m] by line, costs in the stock's currency.
    """
    made = list(cuts)
    new = [chosen.by_id[p.part] for p in job.parts_by("new")]
    lines = [
        *_batteries(new),
        *_gear(chosen, new),
        *_devices(new),
        *_bars(chosen, new),
        *_cable(made),
        *_ends(chosen, job, made),
        *_support(chosen, job, new, made),
    ]
    listed = _listed(stock, made) if stock else {}
    priced = [_priced(line, listed) for line in _summed(lines)]
    ordered = sorted(priced, key=lambda x: (GROUPS.index(x.group), x.item))
    costs = [line.cost for line in ordered]
    copper = sum(COPPER_KG_PER_M_MM2 * p.area_mm2 * p.cut_m for p in made)
    return PartsList(
        lines=tuple(ordered),
        cost=round(sum(c for c in costs if c is not None), 2),
        unpriced=sum(c is None for c in costs),
        copper_kg=round(copper, 3),
        currency=stock.currency if stock else "",
    )


def _line(
    item: str,
    group: str,
    what: str,
    needed: float,
    purpose: str,
    *,
    unit: str = "",
    check: str = "",
) -> PartsLine:
    return PartsLine(f"parts:{item}", item, group, what, unit, needed, purpose, check)


def _summed(lines: Iterable[PartsLine]) -> list[PartsLine]:
    """One line for one item, its purposes told together."""
    found: dict[str, PartsLine] = {}
    for line in lines:
        so_far = found.get(line.item)
        if so_far is None:
            found[line.item] = line
            continue
        told = so_far.purpose.split("; ")
        purpose = so_far.purpose if line.purpose in told else f"{so_far.purpose}; {line.purpose}"
        needed = round(so_far.needed + line.needed, 3)
        found[line.item] = replace(so_far, needed=needed, purpose=purpose)
    return list(found.values())


def _cable_item(p: Piece) -> str:
    return f"cable {p.gauge} {p.colour} {p.insulation_c}"


def _device_item(device: str, rating_a: float) -> str:
    sort = "breaker" if device.startswith("breaker") else "fuse"
    return f"{sort} {device} {rating_a:g}"


def _listed(stock: Stock, made: list[Piece]) -> dict[str, GearPrice]:
    """What the stock says of items: its price list, else cable by the metre and devices."""
    found = {
        _device_item(d.device, rating_a): GearPrice(item=d.device, price=d.price)
        for d in stock.devices
        for rating_a in d.ratings_a
    }
    for p in made:
        metre = next((c.price_per_m for c in stock.cables if c.gauge == p.gauge), None)
        reels = sum(r.length_m for r in stock.reels if r.fits(*p.reel))
        found[_cable_item(p)] = GearPrice(item=p.gauge, price=metre, kept=reels)
    for own in stock.gear:
        usual = found.get(own.item, GearPrice(item=own.item))
        price = usual.price if own.price is None else own.price
        found[own.item] = own.model_copy(update={"price": price, "kept": own.kept + usual.kept})
    return found


def _priced(line: PartsLine, listed: Mapping[str, GearPrice]) -> PartsLine:
    known = listed.get(line.item, GearPrice(item=line.item))
    price, kept = known.price, known.kept
    return replace(
        line,
        price=price,
        kept=round(kept, 3),
        to_buy=max(0.0, round(line.needed - kept, 3)),
        cost=None if price is None else round(price * line.needed, 2),
        instead=known.instead,
        note=known.note,
    )


def _batteries(new: list[Component]) -> Iterator[PartsLine]:
    for bank in (p for p in new if isinstance(p, Bank)):
        count = bank.series * bank.parallel
        label = chemistry(bank.chemistry).label
        unit = f"{bank.unit_v} V {bank.unit_ah:g} Ah"
        cca = f", {bank.unit_cca_a:g} A cold cranking" if bank.unit_cca_a else ""
        item = f"battery {bank.chemistry} {bank.unit_v} {bank.unit_ah:g}"
        check = f"label: {unit}{cca}; date of make; volts at rest"
        group = "Batteries"
        yield _line(item, group, f"{label}, {unit}{cca}", count, bank.name, check=check)
        yield _line("tray", group, "Battery tray with strap, takes spilt acid", count, bank.name)
        yield _line("boot battery", group, "Boot for a battery terminal", 2 * count, bank.name)
        links = bank.parallel * (bank.series - 1) + 2 * (bank.parallel - 1)
        if links:
            what = "Lead between two batteries, made to length"
            yield _line("link lead", group, what, links, bank.name)


def _gear(chosen: Design, new: list[Component]) -> Iterator[PartsLine]:
    turned = {s.id for s in battery_switches(chosen)}
    group = "Switches and gear"
    for part in new:
        if isinstance(part, Bank | Fuse | Breaker | FuseBlock | BusBar | LoadGroup | Starter):
            continue
        words, check = _ratings(part)
        item = f"{part.kind} {words}".strip()
        what = f"{part.facts.word}{', ' if words else ''}{words}"
        yield _line(item, group, what, 1, part.name, check=check or "its label")
        if part.id in turned:
            yield _line("backing plate", group, "Backing plate for a switch", 1, part.name)
            yield _line("position plate", group, "Position plate, own words", 1, part.name)
        if isinstance(part, Relay) and part.negative_fuse_a is not None:
            fuse = _device_item("blade_regular", part.negative_fuse_a)
            amps = f"Blade fuse, {part.negative_fuse_a:g} A"
            where = f"negative of {part.name}"
            yield _line(fuse, "Fuses and breakers", amps, 2, f"{where}, and one spare")
            holder = "Holder with cover for a blade fuse"
            yield _line("holder blade_regular", "Fuses and breakers", holder, 1, where)
            sleeve = "Black sleeve: the holder's leads are red and this is a negative"
            yield _line("black sleeve", "Shrink", sleeve, 2, where)


def _ratings(part: Component) -> tuple[str, str]:
    """Ratings that tell one part of its kind from another, and what its label must say."""
    told = []
    for name, unit in (
        ("rated_w", "W"), ("panel_w", "W"), ("rated_a", "A"), ("rating_a", "A"), ("limit_a", "A"),
    ):  # fmt: skip
        value = getattr(part, name, None)
        if value is not None:
            told.append(f"{value:g} {unit}")
    set_v = getattr(part, "set_v", None)
    if set_v is not None:
        told.append(f"{set_v:g} V")
    return " ".join(told), f"label: {', '.join(told)}" if told else ""


def _devices(new: list[Component]) -> Iterator[PartsLine]:
    group = "Fuses and breakers"
    spared: set[str] = set()
    for part in new:
        if isinstance(part, Breaker):
            kind = device_type(part.device)
            label = kind.label if kind else "Breaker, type not known"
            check = f"label: {part.rating_a:g} A, {label.lower()}"
            item = _device_item(part.device, part.rating_a)
            what = f"{label}, {part.rating_a:g} A"
            yield _line(item, group, what, 1, part.name, check=check)
        elif isinstance(part, Fuse | FuseBlock):
            ratings = part.branch_a if isinstance(part, FuseBlock) else (part.rating_a,)
            kind = device_type(part.device)
            label = kind.label if kind else "Fuse, type not known"
            if isinstance(part, FuseBlock):
                block = f"Fused bus, {len(ratings)} branches, with cover"
                yield _line(f"fuse_block {len(ratings)}", group, block, 1, part.name)
            else:
                holder = f"Holder with cover for: {label.lower()}"
                yield _line(f"holder {part.device}", group, holder, 1, part.name)
            for rating_a in ratings:
                item = _device_item(part.device, rating_a)
                what, check = f"{label}, {rating_a:g} A", f"label: {rating_a:g} A"
                yield _line(item, group, what, 1, part.name, check=check)
                if item not in spared:
                    spared.add(item)
                    yield _line(item, group, what, 1, "one spare", check=check)


def _bars(chosen: Design, new: list[Component]) -> Iterator[PartsLine]:
    for bar in (p for p in new if isinstance(p, BusBar) and not p.engine_block):
        used = sum(1 for post in bar.posts() if chosen.stack_on(f"{bar.id}.{post}"))
        amps = f", {bar.rating_a:g} A" if bar.rating_a else ""
        purpose = f"{bar.name}: {used} of {bar.studs} studs used, {bar.studs - used} free"
        what = f"Bus bar with cover, {bar.studs} studs{amps}"
        item = f"bus_bar {bar.studs}{amps.replace(',', '')}"
        yield _line(item, "Bars", what, 1, purpose)


def _cable(made: list[Piece]) -> Iterator[PartsLine]:
    for p in made:
        small = ", small cable" if p.area_mm2 <= THIN_MM2 else ""
        what = f"Cable {p.gauge}, {p.colour}, {p.insulation_c} °C{small}"
        metres = round(p.cut_m * (1 + WASTE_SHARE), 3)
        item = _cable_item(p)
        waste = f"with {WASTE_SHARE:.0%} for waste"
        yield _line(item, "Cable", what, metres, waste, unit="m")


def _ends(chosen: Design, job: Work, made: list[Piece]) -> Iterator[PartsLine]:
    for p in made:
        for end in p.ends:
            yield from _end(p.gauge, p.area_mm2, p.colour, end)
    for again in job.cables_by("again"):
        cable = chosen.cables_by_id[again.cable or ""]
        colour = "black" if chosen.post_polarity[cable.start] == "neg" else "red"
        for side in again.moved:
            end = end_of(chosen, cable, side)
            yield from _end(cable.gauge, cable.area_mm2, colour, end, "new lug, cable used again")


def _end(
    gauge: str, area_mm2: float, colour: str, end: CutEnd, purpose: str = "both ends of new cable"
) -> Iterator[PartsLine]:
    hole = f"{end.hole_mm:g} mm hole" if end.hole_mm else f"hole for {end.stud}"
    what = f"Lug {gauge} x {end.stud} ({hole}), tinned"
    yield _line(f"lug {gauge} {end.stud}", "Lugs", what, 1, purpose)
    bore = shrink_bore_mm(area_mm2)
    shrink = f"Shrink with adhesive, {colour}, {bore:g} mm bore, {SHRINK_MM:g} mm long"
    yield _line(f"shrink {colour} {bore:g}", "Shrink", shrink, 1, purpose)


def _support(
    chosen: Design, job: Work, new: list[Component], made: list[Piece]
) -> Iterator[PartsLine]:
    group = "Support and seal"
    places = {p.id: p.name for p in chosen.places}
    for p in made:
        clips = math.ceil(p.length_m / CLIP_EVERY_M)
        size = f"for {math.ceil(p.outside_mm)} mm cable"
        item = f"clip {math.ceil(p.outside_mm)}"
        yield _line(item, group, f"Clip {size}", clips, f"one every {1000 * CLIP_EVERY_M:.0f} mm")
        through = {e.place for e in p.ends if e.place}
        if len(through) == 2:
            a, b = (places.get(str(e.place), str(e.place)) for e in p.ends)
            grommet = f"Grommet for {math.ceil(p.outside_mm)} mm cable"
            yield _line(f"grommet {math.ceil(p.outside_mm)}", group, grommet, 1, f"{a} to {b}")
        if p.sheathed:
            sheath = f"Sheath, bore {math.ceil(p.outside_mm) + 2} mm"
            item = f"sheath {math.ceil(p.outside_mm) + 2}"
            yield _line(item, group, sheath, round(p.length_m, 2), p.name, unit="m")
    if made:
        ties = math.ceil(sum(p.length_m for p in made) / TIE_EVERY_M)
        yield _line("cable tie", group, "Cable tie, UV-proof", ties, "bundles between clips")
        yield _line("sealant", group, "Sealant, one cartridge", 1, "holes through bulkheads")
    for part in new:
        if part.facts.stands in ("gear", "source") or isinstance(part, BusBar):
            where = places.get(part.place or "", "place not entered")
            what = "Screw or bolt with washer, stainless, and lock nut"
            yield _line("fastener", group, what, FASTENERS_EACH, where)
    changed = {c.cable for c in job.cables_by("new", "again")} | {p.id for p in new}
    printed = sum(1 for label in labels(chosen) if label.about in changed)
    if printed:
        yield _line("label", "Labels", "Label, printed and covered", printed, "see the labels")
