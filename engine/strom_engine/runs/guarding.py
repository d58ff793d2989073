"""What protects each cable: the device that a bank's current must pass on its way there."""

from __future__ import annotations

import heapq
from collections import defaultdict
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from strom_engine.design import Alternator, Bank, Breaker, Cable, Design, Fuse
from strom_engine.runs.allowed_current import Standard
from strom_engine.runs.wiring import Link, part_of, wiring

__all__ = [
    "CableGuard",
    "Cover",
    "Guarding",
    "Root",
    "cover",
    "covers",
    "devices_before",
    "guarding",
    "rungs_above",
]

# Distances from a source within which a device must stand (ABYC E-11; confirm in the edition in
# force): 7 in; 72 in from a battery and 40 in from another source where sheathed throughout.
AT_SOURCE_M, SHEATHED_BATTERY_M, SHEATHED_OTHER_M = 0.175, 1.83, 1.02
AT_SOURCE_ISO_M = 0.2  # ISO 13297, location of overcurrent protection


@dataclass(frozen=True)
class CableGuard:
    """How one bank's current gets into a cable: at which post, and past which device.

    ``device`` is None where there is none on the way; ``metres_m`` then counts from the bank, or
    from where an exempt cranking conductor ends, to that post. ``cranking``: it is on this bank's
    own way to a starter, with no device before it.
    """

    bank: str
    cable: str
    fed_at: str
    device: str | None
    rating_a: float
    metres_m: float
    exempt: bool
    root: str | None
    cranking: bool


@dataclass(frozen=True)
class Root:
    """An unprotected cable on a bank, or on a cranking conductor, and how far on the device is.

    ``device_m`` is the distance to the farthest first device [m], None where a way on has none;
    ``limit_m`` what is allowed as it is, ``sheathed_m`` what would be if it were sheathed.
    """

    bank: str
    cable: str
    fed_at: str
    device_m: float | None
    devices: tuple[str, ...]
    limit_m: float
    sheathed_m: float
    sheathed: bool

    def limit_of(self, standard: Standard) -> float:
        """What a standard allows [m]: ISO 200 mm where ABYC allows 7 in, and no less elsewhere."""
        return max(self.limit_m, AT_SOURCE_ISO_M) if standard == "iso" else self.limit_m

    def far(self, standard: Standard) -> bool:
        """Whether the device is missing, or stands farther off than a standard allows."""
        return self.device_m is None or self.device_m > self.limit_of(standard) + 1e-9


@dataclass(frozen=True)
class Guarding:
    """Guards of every cable by bank, roots of what is unprotected, devices above devices."""

    guards: dict[str, tuple[CableGuard, ...]]
    roots: tuple[Root, ...]
    above: dict[str, dict[str, str | None]]
    at_post: dict[str, dict[str, tuple[str | None, float]]]

    def worst(self, cable: str) -> CableGuard | None:
        """The guard that lets most through: none at all, else the largest rating."""
        found = self.guards.get(cable, ())
        return max(found, key=lambda g: (g.device is None, g.rating_a), default=None)


@dataclass(order=True, frozen=True)
class _At:
    """A post on the walk; worse protection comes first, then what is nearer."""

    rank: tuple[int, float, float]
    post: str
    device: str | None = None
    rating_a: float = 0.0
    metres_m: float = 0.0
    root: str | None = None
    origin: str = "battery"


def _at(
    post: str, device: str | None, rating_a: float, metres_m: float, root: str | None, origin: str
) -> _At:
    rank = (0 if device is None else 1, -rating_a, metres_m)
    return _At(rank, post, device, rating_a, metres_m, root, origin)


@lru_cache(maxsize=32)
def guarding(design: Design) -> Guarding:
    """What protects the cables of the positive side, every contact thought closed.

    Walks out from each bank, the least protected ways first, so that a cable reached by two ways
    counts with the worse one. Cranking conductors are exempt (ABYC E-11): what branches off them
    starts anew.
    """
    guards: dict[str, list[CableGuard]] = defaultdict(list)
    roots: list[Root] = []
    above: dict[str, dict[str, str | None]] = {}
    at_post: dict[str, dict[str, tuple[str | None, float]]] = {}
    for bank in design.of_type(Bank):
        walk = _Walk(design, bank.id)
        for guard in walk.guards:
            guards[guard.cable].append(guard)
        roots += walk.roots()
        above[bank.id] = walk.above
        at_post[bank.id] = {post: (s.device, s.rating_a) for post, s in walk.settled.items()}
    return Guarding({c: tuple(g) for c, g in guards.items()}, tuple(roots), above, at_post)


def devices_before(design: Design, post: str) -> tuple[str, ...]:
    """Ids of the devices next before a post, over all banks that reach it past one."""
    reached = (at.get(post, (None, 0.0))[0] for at in guarding(design).at_post.values())
    return tuple(sorted({device for device in reached if device is not None}))


class _Walk:
    """One bank's walk over the positive side."""

    def __init__(self, design: Design, bank: str) -> None:
        self.design, self.bank = design, bank
        self.wires = wiring(design)
        self.exempt = self.wires.cranking_cables()
        self.guards: list[CableGuard] = []
        self.above: dict[str, str | None] = {}
        self.settled: dict[str, _At] = {}
        self.ends: dict[str, list[tuple[float, str | None]]] = defaultdict(list)
        self.first: dict[str, tuple[str, str]] = {}
        walked: set[str] = set()
        queue = [_at(f"{bank}.pos", None, 0.0, 0.0, None, "battery")]
        while queue:
            at = heapq.heappop(queue)
            if at.post in self.settled:
                continue
            self.settled[at.post] = at
            onward = [self._over(at, link, walked) for link in self.wires.links[at.post]]
            found = [one for one in onward if one is not None]
            if at.root and not self.design.by_id[part_of(at.post)].joins():
                self.ends[at.root].append((at.metres_m, None))
            for one in found:
                heapq.heappush(queue, one)

    def _over(self, at: _At, link: Link, walked: set[str]) -> _At | None:
        """Where a link leads; None for a cable that was walked already, or for another bank."""
        if link.cable is None:
            if link.device is None:
                return _at(link.to, at.device, at.rating_a, at.metres_m, at.root, at.origin)
            self.above.setdefault(link.device, at.device)
            if at.root:
                self.ends[at.root].append((at.metres_m, link.device))
            return _at(link.to, link.device, link.rating_a, 0.0, None, at.origin)
        cable = self.design.cables_by_id[link.cable]
        if cable.id in walked or self.wires.side(cable) == "neg":
            return None
        walked.add(cable.id)
        return self._along(at, link, cable)

    def _along(self, at: _At, link: Link, cable: Cable) -> _At | None:
        exempt = at.device is None and (cable.id in self.exempt or self._limits_itself(at, link))
        root = at.root
        if at.device is None and not exempt and root is None:
            root = cable.id
            self.first[root] = (at.post, at.origin)
        device, rating_a = self._tapped(at, link, cable)
        self.guards.append(
            CableGuard(
                self.bank,
                cable.id,
                at.post,
                device,
                rating_a,
                at.metres_m,
                exempt,
                None if exempt else root,
                exempt and cable.id in self.wires.cranking_ways[self.bank],
            )
        )
        if isinstance(self.design.by_id[part_of(link.to)], Bank):
            if root and at.device is None and not exempt:
                self.ends[root].append((at.metres_m + cable.length_m, None))
            return None
        if exempt:
            return _at(link.to, None, 0.0, 0.0, None, "other")
        metres = at.metres_m + cable.length_m if at.device is None else at.metres_m
        return _at(link.to, at.device, at.rating_a, metres, root, at.origin)

    def _limits_itself(self, at: _At, link: Link) -> bool:
        """Whether a cable is the short sheathed lead of an alternator that limits itself.

        With its regulator inside, landed elsewhere than on a battery, sheathed throughout and
        within 40 in, it needs no device (ABYC E-11, exceptions; confirm in the edition in force).
        """
        cable, part = (
            self.design.cables_by_id[link.cable or ""],
            self.design.by_id[part_of(link.to)],
        )
        return (
            isinstance(part, Alternator)
            and part.sensing == "machine"
            and at.origin == "other"
            and cable.sheathed
            and cable.length_m <= SHEATHED_OTHER_M
        )

    def _tapped(self, at: _At, link: Link, cable: Cable) -> tuple[str | None, float]:
        """The device that counts for a cable: the one before it, or the one close behind it.

        A short piece that leaves a thicker conductor for a device of its own is protected by that
        (ABYC E-11, within 7 in of where it is connected, 40 in where sheathed).
        """
        part = self.design.by_id[part_of(link.to)]
        near_m = SHEATHED_OTHER_M if cable.sheathed else AT_SOURCE_M
        if at.device is None or cable.length_m > near_m or not isinstance(part, Fuse | Breaker):
            return at.device, at.rating_a
        return (part.id, part.rating_a) if part.rating_a < at.rating_a else (at.device, at.rating_a)

    def roots(self) -> list[Root]:
        """What starts unprotected, with the distance to its devices."""
        found = []
        for cable, (post, origin) in self.first.items():
            ends = self.ends[cable]
            open_ended = any(device is None for _, device in ends) or not ends
            inside = [g.cable for g in self.guards if g.root == cable]
            sheathed = all(self.design.cables_by_id[c].sheathed for c in inside)
            long_m = SHEATHED_BATTERY_M if origin == "battery" else SHEATHED_OTHER_M
            found.append(
                Root(
                    bank=self.bank,
                    cable=cable,
                    fed_at=post,
                    device_m=None if open_ended else max(m for m, _ in ends),
                    devices=tuple(sorted({d for _, d in ends if d})),
                    limit_m=long_m if sheathed else AT_SOURCE_M,
                    sheathed_m=long_m,
                    sheathed=sheathed,
                )
            )
        return found


@dataclass(frozen=True)
class Cover:
    """How well a cable is protected, against the bank that it is protected from least.

    ``state``: ``kept`` (past a device, or close enough to one), ``exempt`` (cranking), ``far``
    (the device stands too far from the source), ``none``. ``device_m`` is the distance from the
    source to the device [m].
    """

    state: Literal["kept", "exempt", "far", "none"]
    device: str | None = None
    device_m: float | None = None
    root: Root | None = None


@lru_cache(maxsize=32)
def covers(design: Design) -> dict[str, Cover | None]:
    """How every cable is protected; None for one that no bank reaches on the positive side."""
    found = guarding(design)
    return {cable.id: _worst_cover(design, found, cable.id) for cable in design.cables}


def cover(design: Design, cable: str) -> Cover | None:
    """How one cable is protected, as `covers` tells.

    Args:
        design: the boat, as surveyed.
        cable: its id.

    Returns:
        Devices and distances [m]; None for a cable that needs none.
    """
    return covers(design)[cable]


def _worst_cover(design: Design, found: Guarding, cable: str) -> Cover | None:
    ends, guards = _device_at_end(design, cable), found.guards.get(cable, ())
    if not any(g.cranking for g in guards) and any(not g.exempt for g in guards):
        # Reached through a cranking conductor of another bank: its own bank's device counts.
        guards = tuple(g for g in guards if not g.exempt)
    covers = [(_cover(found, guard, ends), guard) for guard in guards]
    order = ("none", "far", "exempt", "kept")
    worst = min(
        covers,
        key=lambda c: (order.index(c[0].state), -c[1].rating_a, c[1].device != ends),
        default=None,
    )
    return worst[0] if worst else None


def _device_at_end(design: Design, cable: str) -> str | None:
    """The fuse or breaker that a cable ends on, where there is one."""
    one = design.cables_by_id[cable]
    parts = (design.by_id[part_of(ref)] for ref in (one.end, one.start))
    return next((p.id for p in parts if isinstance(p, Fuse | Breaker)), None)


def _cover(found: Guarding, guard: CableGuard, at_end: str | None) -> Cover:
    if guard.device is not None:
        reached = [r for r in found.roots if guard.device in r.devices]
        near = min((r.device_m for r in reached if r.device_m is not None), default=None)
        return Cover("kept", guard.device, near)
    if guard.exempt:
        return Cover("exempt", at_end)
    root = next(r for r in found.roots if (r.bank, r.cable) == (guard.bank, guard.root))
    device = at_end or (root.devices[0] if len(root.devices) == 1 else None)
    if root.device_m is None:
        return Cover("none", None, None, root)
    state: Literal["kept", "far"] = "kept" if root.device_m <= root.limit_m + 1e-9 else "far"
    return Cover(state, device, root.device_m, root)


def rungs_above(found: Guarding, bank: str, device: str) -> list[str]:
    """Devices from one towards a bank, itself first."""
    rungs: list[str] = []
    at: str | None = device
    while at is not None and at not in rungs:
        rungs.append(at)
        at = found.above[bank].get(at)
    return rungs
