"""One pass over the devices and the cables of a design: what is missing, what is too weak."""

from __future__ import annotations

from functools import cached_property
from math import inf

from strom_engine.design import (
    Breaker,
    Cable,
    CableFields,
    Design,
    Fuse,
    OneChange,
    SetCables,
    SetPart,
)
from strom_engine.design.choices import CableEnd
from strom_engine.design.edits import NEW_LEAD_M, put_device
from strom_engine.design.fields import FieldValue
from strom_engine.runs.allowed_current import (
    Standard,
    allowed_current,
    in_engine_space,
    most_rating_a,
)
from strom_engine.runs.currents import design_currents
from strom_engine.runs.devices import protectors
from strom_engine.runs.guarding import Root, cover, guarding
from strom_engine.runs.joint import Option, cheapest_sizes
from strom_engine.runs.legs import legs
from strom_engine.runs.paths import Path, paths
from strom_engine.runs.picking import (
    MARGIN,
    branch_device,
    needed_rating_a,
    pick_device,
    wanted_rating_a,
)
from strom_engine.runs.sizes import (
    PathDrop,
    Wanted,
    as_stocked,
    by_ampacity,
    fits_current,
)
from strom_engine.runs.stock import Stock, StockCable
from strom_engine.runs.wiring import part_of

__all__ = ["SizingPass"]

WORTH_IT = 0.8  # of the drop that is left, where the limit itself is out of reach
NEAR_BEST = 1.15  # of the least drop that a path can have, where its limit is out of reach


class SizingPass:
    """One pass over devices and cables of a design."""

    def __init__(
        self,
        design: Design,
        stock: Stock,
        standard: Standard,
        cables: frozenset[str],
        only_weak: bool,
    ) -> None:
        self.design, self.stock, self.standard = design, stock, standard
        self.cables, self.only_weak = cables, only_weak
        self.left: list[str] = []
        self.ratings: dict[str, float] = {}

    # -- devices ------------------------------------------------------------------------------

    def missing(self) -> OneChange | None:
        """The next device to put in where one is missing; None when there is none."""
        for root in self._open_roots():
            cable = self.design.cables_by_id[root.cable]
            if cable.locked:
                self.left.append(
                    f"{self.design.cable_name(cable)} stays as it is: no device within "
                    f"{root.limit_of(self.standard):g} m of its source."
                )
                continue
            nearer = self._moved_nearer(root, cable)
            if nearer is not None:
                return nearer
            current = design_currents(self.design)[cable.id]
            amps = needed_rating_a(current, 0.0)
            pick = pick_device(self.design, self.stock, root.fed_at, amps)
            if pick is None:
                self.left.append(
                    f"{self.design.cable_name(cable)}: no device in stock for {amps:.0f} A."
                )
                continue
            end: CableEnd = "start" if cable.start == root.fed_at else "end"
            return put_device(self.design, cable.id, end, pick.device, pick.rating_a)
        return self._branch()

    def _branch(self) -> OneChange | None:
        """A device where a thin cable leaves a thick one that has too large a device for it."""
        for cable in self.design.cables:
            if cable.id in self.cables and not cable.locked and cable.purpose == "power":
                put = branch_device(self.design, cable, self.stock, self.standard)
                if put is not None:
                    return put
        return None

    def _moved_nearer(self, root: Root, cable: Cable) -> OneChange | None:
        """The device moved close to the source, where it stands at the end of its first cable."""
        far = cable.end if cable.start == root.fed_at else cable.start
        part = self.design.by_id[part_of(far)]
        if not isinstance(part, Fuse | Breaker) or root.devices != (part.id,):
            return None
        other = f"{part.id}.b" if far == f"{part.id}.a" else f"{part.id}.a"
        behind = [c for c in self.design.cables if other in (c.start, c.end)]
        gained = cable.length_m - NEW_LEAD_M
        if gained <= 0 or any(c.locked for c in behind):
            return None
        lengths = {cable.id: NEW_LEAD_M} | {c.id: round(c.length_m + gained, 3) for c in behind}
        return SetCables(
            rows=tuple(
                CableFields(cable=c, fields={"length_m": m, "estimated": False})
                for c, m in lengths.items()
            )
        )

    def _open_roots(self) -> list[Root]:
        found: dict[str, Root] = {}
        for root in guarding(self.design).roots:
            if root.far(self.standard) and root.cable in self.cables:
                found.setdefault(root.cable, root)
        return list(found.values())

    def devices(self) -> list[OneChange]:
        """Devices of fitting rating on the cables; from the loads up, so that each is above."""
        found = guarding(self.design)
        order = sorted(
            (d for d in protectors(self.design).values() if "." not in d.id),
            key=lambda d: -max((self._depth(bank, d.id) for bank in found.above), default=0),
        )
        changes: list[OneChange] = []
        for one in order:
            guarded = [c for c in self.design.cables if self._guard(c.id) == one.id]
            if not any(c.id in self.cables for c in guarded):
                continue
            least = max(wanted_rating_a(self.design, one.id), self._above_lower(one.id))
            most = self._most(guarded)
            if least <= one.rating_a <= most + 1e-9:
                self.ratings[one.id] = one.rating_a
                continue
            post = f"{one.part}.a"
            fuse = one.kind == "fuse"
            pick = pick_device(self.design, self.stock, post, least, fuses_only=fuse)
            if pick is None or (not fuse and not pick.device.startswith("breaker")):
                self.left.append(f"{one.name}: nothing in stock for {least:.0f} A.")
                continue
            self.ratings[one.id] = pick.rating_a
            fields: dict[str, FieldValue] = {"rating_a": pick.rating_a, "device": pick.device}
            part = self.design.by_id[one.part]
            if isinstance(part, Fuse | Breaker) and (
                pick.rating_a != part.rating_a or pick.device != part.device
            ):
                changes.append(SetPart(part=one.part, fields=fields))
        return changes

    def _depth(self, bank: str, device: str) -> int:
        above = guarding(self.design).above[bank]
        depth, at = 0, above.get(device)
        while at is not None and depth < len(above):
            depth, at = depth + 1, above.get(at)
        return depth if device in above else 0

    def _above_lower(self, device: str) -> float:
        """Just above the largest device below this one that only one bank sees below it."""
        found = guarding(self.design)
        lower = [
            self.ratings.get(d, protectors(self.design)[d].rating_a)
            for above in found.above.values()
            for d, up in above.items()
            if up == device and not any(a.get(device) == d for a in found.above.values())
        ]
        return max(lower) + 0.5 if lower else 0.0

    def _guard(self, cable: str) -> str | None:
        found = cover(self.design, cable)
        return found.device if found and found.state in ("kept", "far") else None

    def _most(self, guarded: list[Cable]) -> float:
        """The largest device that cables which stay as they are, or are good, allow."""
        limits = [
            most_rating_a(
                allowed_current(
                    c, engine_space=in_engine_space(self.design, c), standard=self.standard
                ).amps
            )
            for c in guarded
            if c.locked or c.id not in self.cables or self.only_weak
        ]
        return min(limits, default=float("inf"))

    # -- sizes --------------------------------------------------------------------------------

    def sizes(self) -> list[OneChange]:
        """Sizes of the cables, the smallest that keep every limit."""
        chosen: dict[str, StockCable] = {}
        for cable in self.design.cables:
            if cable.id in self.cables and not cable.locked:
                size = self._least(cable)
                if size is not None:
                    chosen[cable.id] = size
        self._pair(chosen)
        for path in paths(self.design):
            self._widen(path, chosen)
        return self._as_change(chosen)

    def widened(self, path: Path) -> SetCables | None:
        """Cables of one path thicker until it keeps its limit, or loses a fifth less at least."""
        free = (self.design.cables_by_id[c] for c in path.cables)
        chosen = {c.id: _as_it_is(c) for c in free if not c.locked}
        self._widen(path, chosen)
        areas = {name: size.area_mm2 for name, size in chosen.items()}
        better = PathDrop(self.design, path).volts(areas) <= WORTH_IT * path.drop_v
        found = self._as_change(chosen) if better or not self.left else []
        change = found[0] if found else None
        return change if isinstance(change, SetCables) else None

    def _as_change(self, chosen: dict[str, StockCable]) -> list[OneChange]:
        rows = []
        for name, size in chosen.items():
            old, new = (
                self.design.cables_by_id[name],
                as_stocked(self.design.cables_by_id[name], size),
            )
            if new != old:
                fields = {
                    "gauge": new.gauge,
                    "copper_mm2": new.copper_mm2,
                    "insulation_c": new.insulation_c,
                }
                rows.append(CableFields(cable=name, fields=fields))
        return [SetCables(rows=tuple(rows))] if rows else []

    def _least(self, cable: Cable) -> StockCable | None:
        """The thinnest that carries the current and is protected; as it is where that will do."""
        one = design_currents(self.design)[cable.id]
        current = one.amps
        guard = self._guard(cable.id)
        device_a = None
        if guard is not None and cable.purpose == "power":
            device_a = self.ratings.get(guard, protectors(self.design)[guard].rating_a)
        wanted = Wanted(one, device_a, self.standard)
        if self.only_weak and fits_current(self.design, cable, wanted):
            return _as_it_is(cable)
        found = by_ampacity(self.design, cable, wanted, self.stock)
        if found is None:
            name = self.design.cable_name(cable)
            asked = f"{current:.0f} A" + (f" behind {device_a:g} A" if device_a else "")
            self.left.append(f"{name}: no cable in stock carries {asked} here.")
        return found

    def _pair(self, chosen: dict[str, StockCable]) -> None:
        """A negative at least as large as its positive."""
        for leg in legs(self.design):
            if leg.out and leg.back and leg.back.id in chosen:
                out = chosen.get(leg.out.id)
                area = out.area_mm2 if out else leg.out.area_mm2
                if chosen[leg.back.id].area_mm2 < 0.999 * area:
                    self._raise(chosen, leg.back.id, area)

    def _raise(self, chosen: dict[str, StockCable], name: str, area_mm2: float) -> None:
        cable = self.design.cables_by_id[name]
        one = design_currents(self.design)[name]
        wanted = Wanted(one, None, self.standard)
        for size in self.stock.by_area:
            if size.area_mm2 >= 0.999 * area_mm2 and fits_current(
                self.design, as_stocked(cable, size), wanted
            ):
                chosen[name] = size
                return

    def _widen(self, path: Path, chosen: dict[str, StockCable]) -> None:
        """Thicker cables on a path, all of them chosen together, until it keeps what it may lose.

        A cranking path aims at what is good, and falls back to what is allowed.
        """
        drop = PathDrop(self.design, path)
        areas = {name: size.area_mm2 for name, size in chosen.items()}
        if drop.volts(areas) <= path.aim_v / MARGIN:
            return
        names = tuple(name for name in dict.fromkeys(path.cables) if name in chosen)
        sizes = {name: self._sizes_from(chosen[name]) for name in names}
        thickest = {name: sizes[name][-1].area_mm2 for name in names}
        least_v = drop.volts(areas | thickest)
        limits = [path.aim_v / MARGIN, path.limit_v / MARGIN, path.limit_v]
        limit_v = next((v for v in limits if least_v <= v), None)
        if limit_v is None:
            # Nothing thick enough: as near to the best as is worth the copper.
            limit_v = NEAR_BEST * least_v
            self.left.append(
                f"{path.name}: with the thickest cable in stock it still loses {least_v:.2f} V, "
                f"{path.limit_v:.2f} V are allowed: shorten the way."
            )
        fixed_v = drop.volts(areas | dict.fromkeys(names, inf))
        picks = cheapest_sizes(
            {name: self._options(name, sizes[name]) for name in names},
            {name: drop.volt_mm2.get(name, 0.0) for name in names},
            limit_v - fixed_v,
            [(out, back) for out, back in self._partners.items() if {out, back} <= set(names)],
        )
        for name in names:
            size = sizes[name][-1 if picks is None else picks[name]]
            chosen[name] = size
            self._raise_partner(name, chosen)
        if limit_v > path.limit_v:
            self._no_thinner(path, chosen)

    def _sizes_from(self, now: StockCable) -> list[StockCable]:
        """A size, and every thicker one in stock that stands as much heat."""
        thicker = (
            s
            for s in self.stock.by_area
            if s.area_mm2 > 1.001 * now.area_mm2 and s.insulation_c >= now.insulation_c
        )
        return [now, *thicker]

    def _options(self, name: str, sizes: list[StockCable]) -> list[Option]:
        """What each size of a cable costs: its price where every one has one, else its copper."""
        length_m = self.design.cables_by_id[name].length_m
        priced = all(s.price_per_m is not None for s in sizes)
        return [
            Option(s.area_mm2, length_m * ((s.price_per_m or 0.0) if priced else s.area_mm2))
            for s in sizes
        ]

    @cached_property
    def _partners(self) -> dict[str, str]:
        """The negative of each positive."""
        return {leg.out.id: leg.back.id for leg in legs(self.design) if leg.out and leg.back}

    def _raise_partner(self, name: str, chosen: dict[str, StockCable]) -> None:
        """The negative of a cable at least as thick as it."""
        back = self._partners.get(name)
        if back in chosen and chosen[back].area_mm2 < chosen[name].area_mm2:
            chosen[back] = chosen[name]

    def _no_thinner(self, path: Path, chosen: dict[str, StockCable]) -> None:
        """Cables of a path that nothing in stock heals stay at least as thick as they are."""
        for name in path.cables:
            cable = self.design.cables_by_id[name]
            if name in chosen and chosen[name].area_mm2 < cable.area_mm2:
                chosen[name] = _as_it_is(cable)


def _as_it_is(cable: Cable) -> StockCable:
    """A cable's own make, whether it is in stock or not."""
    return StockCable.model_construct(
        gauge=cable.gauge,
        copper_mm2=cable.copper_mm2,
        insulation_c=cable.insulation_c,
        price_per_m=None,
    )
