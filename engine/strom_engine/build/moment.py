"""A moment of the work: what is landed and fitted then, and which posts are live."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from strom_engine.batteries import FULL_SOC, bank_source, least_resistance_ohm
from strom_engine.circuit.least_path import Edge, Reached, least_paths
from strom_engine.circuit.network import wire_ohm
from strom_engine.design import (
    Bank,
    Cable,
    Component,
    Design,
    Fuse,
    FuseBlock,
    LoadGroup,
    Protection,
)
from strom_engine.design.fields import PostRef
from strom_engine.design.state import Switch
from strom_engine.reference import chemistry
from strom_engine.runs.least_ways import CONTACT_OHM

__all__ = ["Hazard", "LivePost", "Moment"]

COLD_C = 20.0  # copper, for what can flow at most
Links = dict[str, list[Edge[str]]]  # from each post on


@dataclass(frozen=True)
class LivePost:
    """A live post: against which bank's negative, volts at rest, amps into a dead short [A]."""

    post: str
    name: str
    bank: str
    volts_v: float
    amps: float


@dataclass(frozen=True)
class Hazard:
    """What a moment must not hold: which rule of safe work, about what, in words."""

    rule: str
    about: str
    words: str


@dataclass(frozen=True)
class Moment:
    """What there is at one moment: parts fitted, cables landed, what is open.

    ``lifted`` are banks whose negative is off. ``fuses_out`` are open, and so is every switch and
    breaker while ``switches_off``.
    """

    parts: Mapping[str, Component]
    cables: Mapping[str, Cable]
    lifted: frozenset[str] = frozenset()
    fuses_out: frozenset[str] = frozenset()
    switches_off: bool = False
    termination_mohm: float = 0.15

    @classmethod
    def of(cls, design: Design) -> Moment:
        """A design in use, every contact closed."""
        return cls(
            parts={p.id: p for p in design.components},
            cables={c.id: c for c in design.cables},
            termination_mohm=design.termination_mohm,
        )

    def with_(self, **fields: object) -> Moment:
        """The moment with some fields otherwise."""
        return replace(self, **fields)  # type: ignore[arg-type]  # checked by dataclass fields

    # -- what is live -------------------------------------------------------------------------

    @cached_property
    def live(self) -> tuple[LivePost, ...]:
        """Posts on the metal of a bank whose negative is on, the strongest first.

        A bank's own posts are live between themselves for ever; they are told where that bank's
        negative is on.
        """
        found: dict[str, LivePost] = {}
        links = self._metal["pos"]
        for bank in self._banks():
            if bank.id in self.lifted or not self._negative_landed(bank):
                continue
            source = bank_source(bank, FULL_SOC)
            inside = least_resistance_ohm(bank)
            for post, reached in _reached(links, f"{bank.id}.pos").items():
                amps = source.emf_v / (inside + reached.ohm)
                if post not in found or amps > found[post].amps:
                    found[post] = LivePost(post, self._name(post), bank.id, source.emf_v, amps)
        return tuple(sorted(found.values(), key=lambda p: (-p.amps, p.post)))

    def fed(self, group: LoadGroup) -> bool:
        """Whether a load is fed: its plus is live and its minus leads back to that bank."""
        live = {p.post: p.bank for p in self.live}
        bank = live.get(f"{group.id}.pos")
        if bank is None:
            return False
        back = _reached(self._metal["neg"], f"{bank}.neg")
        return f"{group.id}.neg" in back

    def hazards(self) -> Iterator[Hazard]:
        """What must not be in any moment of the work."""
        # As found and as chosen their switches keep them apart; here every contact is open.
        if not self.switches_off:
            return
        links = self._metal["pos"]
        banks = [b for b in self._banks() if b.id not in self.lifted and self._negative_landed(b)]
        for bank in banks:
            metal = _reached(links, f"{bank.id}.pos")
            for other in banks:
                joined = other.id > bank.id and f"{other.id}.pos" in metal
                if joined and _unlike(bank, other):
                    words = f"{bank.name} and {other.name}, unlike, are joined"
                    yield Hazard("unlike chemistries joined", bank.id, words)

    # -- its metal ----------------------------------------------------------------------------

    def _banks(self) -> list[Bank]:
        return [p for p in self.parts.values() if isinstance(p, Bank)]

    def _negative_landed(self, bank: Bank) -> bool:
        ref = f"{bank.id}.neg"
        return any(ref in (c.start, c.end) for c in self.cables.values())

    def _name(self, ref: str) -> str:
        post = PostRef(ref)
        words = {"pos": "+", "neg": "−"}.get(post.post, post.post.replace("_", " "))
        part = self.parts.get(post.part)
        return f"{part.name if part else post.part} {words}"

    @cached_property
    def _metal(self) -> dict[str, Links]:
        """Metal of both sides."""
        return {side: self._links(side) for side in ("pos", "neg")}

    def _links(self, side: str) -> Links:
        """Metal between posts [ohm] on one side of the circuit."""
        polarity = {
            f"{p.id}.{post}": pole for p in self.parts.values() for post, pole in p.posts().items()
        }
        lifted = {f"{b}.neg" for b in self.lifted}
        links: Links = defaultdict(list)
        for cable in self.cables.values():
            ends = (cable.start, cable.end)
            if any(e not in polarity for e in ends):
                continue
            poles = {polarity[e] for e in ends} - {"any"}
            if poles and poles != {side} and len(poles) == 1:
                continue
            if lifted & set(ends):
                continue
            ohm = wire_ohm(cable, COLD_C, self.termination_mohm)
            links[cable.start].append(Edge(str(cable.end), ohm))
            links[cable.end].append(Edge(str(cable.start), ohm))
        for part in self.parts.values():
            for a, b in self._closed(part):
                links[a].append(Edge(b, CONTACT_OHM))
                links[b].append(Edge(a, CONTACT_OHM))
        return links

    def _closed(self, part: Component) -> Iterator[tuple[str, str]]:
        """Pairs of posts that a part joins now: relays and the like stand open at rest."""
        if part.id in self.fuses_out and isinstance(part, Fuse | FuseBlock):
            return
        if self.switches_off and isinstance(part, Switch):
            return
        if part.moves_itself and not isinstance(part, Switch | Protection):
            return
        yield from part.links()


def _reached(links: Links, start: str) -> dict[str, Reached[str]]:
    """What lies on the metal of a post, with the least resistance up to it [ohm]."""
    return least_paths(start, lambda post: links.get(post, ()))


def _unlike(a: Bank, b: Bank) -> bool:
    return chemistry(a.chemistry).family != chemistry(b.chemistry).family
