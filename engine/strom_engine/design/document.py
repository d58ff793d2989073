"""A design as a document: parts, cables between their posts, places and load profiles."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, Any, Literal, TypeVar, cast

from pydantic import Field, StringConstraints, model_validator

from strom_engine.design.choices import CableColour, Fuel, SystemVolts
from strom_engine.design.fields import (
    USUAL_INSULATION_C,
    Amps,
    CopperMm2,
    Frozen,
    Gauge,
    Identifier,
    InsulationC,
    LengthM,
    Millimetres,
    Name,
    Polarity,
    PostRef,
    Share,
    Stud,
    Temperature,
    Versioned,
)
from strom_engine.design.parts import (
    Bank,
    Component,
    LoadGroup,
    Source,
    Starter,
)
from strom_engine.design.upgrades import DESIGN_CHAIN
from strom_engine.design.volts import with_defaults_at
from strom_engine.reference import Size, area_mm2

__all__ = ["DESIGN_VERSION", "Cable", "Design", "ParkedCable", "Place", "Profile", "Stack"]

DESIGN_VERSION = DESIGN_CHAIN.version
SYSTEM_V = (12, 24, 48)
P = TypeVar("P")


class Place(Frozen):
    """A place aboard and what it means for the gear in it.

    ``tail_m`` is what a cable needs beyond a run, from the place's middle to a post;
    ``width_mm``, ``depth_mm`` and ``height_mm`` its inside, ``opening_cm2`` its opening to the
    open air, that in or that out, the smaller.
    """

    id: Identifier
    name: Name
    engine_space: bool = False
    vapour: bool = False
    within_reach: bool = True
    opening_cm2: Annotated[float, Field(ge=0, le=20_000, allow_inf_nan=False)] | None = None
    width_mm: Millimetres | None = None
    depth_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    tail_m: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.3

    @property
    def inside(self) -> Size | None:
        """Its inside, where all three sizes are known."""
        if self.width_mm is None or self.depth_mm is None or self.height_mm is None:
            return None
        return Size(self.width_mm, self.depth_mm, self.height_mm)


class Profile(Frozen):
    """A way of living aboard that loads belong to, such as *at anchor*.

    With ``shore`` the shore lead is in, so that it asks nothing of the bank.
    """

    id: Identifier
    name: Name
    shore: bool = False


class _AnyCable(Frozen):
    """What a cable is, wherever its ends are; ``length_m`` is its own length, one way.

    - ``copper_mm2``: its true copper area where the maker's differs from the size's nominal one;
    - ``bundled``: current-carrying conductors that run together with it, itself among them;
    - ``engine_space``: whether it runs through one; None is as the places of its ends tell;
    - ``locked``: it stays as it is when sizes are chosen;
    - ``current_a``, ``drop_percent``: its design current and allowed drop where they were typed;
    - ``start_lug``, ``end_lug``: the ring holes that its lugs have; None are made to fit.
    """

    id: Identifier
    length_m: LengthM
    estimated: bool = False
    gauge: Gauge
    insulation_c: InsulationC = USUAL_INSULATION_C
    purpose: Literal["power", "sense"] = "power"
    copper_mm2: CopperMm2 | None = None
    sheathed: bool = False
    bundled: Annotated[int, Field(ge=1, le=100)] = 1
    engine_space: bool | None = None
    locked: bool = False
    current_a: Amps | None = None
    drop_percent: Annotated[float, Field(ge=0.5, le=20, allow_inf_nan=False)] | None = None
    colour: CableColour | None = None
    label: Annotated[str, StringConstraints(max_length=24, pattern=r"^[^\x00-\x1f]*$")] = ""
    start_lug: Stud | None = None
    end_lug: Stud | None = None

    @property
    def area_mm2(self) -> float:
        """Copper area [mm2]: its own where it is known, else the nominal one of its size."""
        return self.copper_mm2 or area_mm2(self.gauge)


class Cable(_AnyCable):
    """One conductor between two posts."""

    start: PostRef
    end: PostRef


class ParkedCable(_AnyCable):
    """A cable with an end that lands nowhere: it stays aboard, and carries nothing."""

    start: PostRef | None
    end: PostRef | None

    @classmethod
    def of(cls, cable: Cable) -> ParkedCable:
        """A cable as it is just before an end is taken off."""
        return cls.model_construct(**cable.model_dump())

    def landed(self) -> Cable | None:
        """The cable in use again; None while an end hangs."""
        if self.start is None or self.end is None:
            return None
        return Cable.model_validate(self.model_dump())


class Stack(Frozen):
    """The lugs on a post in order, from the seat up."""

    post: PostRef
    cables: Annotated[tuple[Identifier, ...], Field(max_length=24)]


class Design(Versioned):
    """One variant's whole system. Immutable; change it through named changes."""

    chain = DESIGN_CHAIN

    version: int = DESIGN_CHAIN.version
    system_v: SystemVolts = 12
    fuel: Fuel = "diesel"
    conductor_temperature_c: Temperature = 40.0
    termination_mohm: Annotated[float, Field(ge=0.01, le=2, allow_inf_nan=False)] = 0.15
    drain_limit_soc: Share = 0.5
    places: tuple[Place, ...] = ()
    profiles: Annotated[tuple[Profile, ...], Field(max_length=12)] = ()
    components: Annotated[tuple[Component, ...], Field(max_length=400)]
    cables: Annotated[tuple[Cable, ...], Field(max_length=600)]
    parked: Annotated[tuple[ParkedCable, ...], Field(max_length=200)] = ()
    stacks: Annotated[tuple[Stack, ...], Field(max_length=400)] = ()

    @model_validator(mode="before")
    @classmethod
    def _defaults_at_its_volts(cls, raw: Any) -> Any:  # Any: whatever somebody sends
        """Voltages that a part leaves out are those of this system, not of a 12 V one."""
        if not isinstance(raw, Mapping) or raw.get("system_v", 12) not in SYSTEM_V:
            return raw
        parts = raw.get("components")
        if raw.get("system_v", 12) == 12 or not isinstance(parts, list | tuple):
            return raw
        told = [
            with_defaults_at(p, raw["system_v"]) if isinstance(p, Mapping) else p for p in parts
        ]
        return {**raw, "components": told}

    @cached_property
    def by_id(self) -> dict[str, Component]:
        """Components by id."""
        return {part.id: part for part in self.components}

    @cached_property
    def post_polarity(self) -> dict[str, Polarity]:
        """Every post of the design as ``component.post`` with its polarity."""
        return {
            f"{part.id}.{post}": polarity
            for part in self.components
            for post, polarity in part.posts().items()
        }

    @cached_property
    def cables_by_id(self) -> dict[str, Cable]:
        """Cables by id."""
        return {cable.id: cable for cable in self.cables}

    @cached_property
    def _on_post(self) -> dict[str, tuple[Cable, ...]]:
        found: dict[str, list[Cable]] = {}
        for cable in self.cables:
            for ref in {cable.start, cable.end}:
                found.setdefault(ref, []).append(cable)
        return {ref: tuple(cables) for ref, cables in found.items()}

    def cables_on(self, ref: str) -> tuple[Cable, ...]:
        """Cables that end on a post, in document order."""
        return self._on_post.get(ref, ())

    @cached_property
    def _content_hash(self) -> int:
        return hash((self.components, self.cables, self.conductor_temperature_c, self.system_v))

    def __hash__(self) -> int:
        """Hash of the contents, worked out once, so that a design can key a cache."""
        return self._content_hash

    def replace_unchecked(self, **fields: object) -> Design:
        """This design with some fields replaced, unchecked; nothing derived is carried over."""
        kept = {name: getattr(self, name) for name in type(self).model_fields}
        return Design.model_construct(**(kept | fields))

    @cached_property
    def _by_type(self) -> dict[type, tuple[Component, ...]]:
        kinds = {type(part) for part in self.components}
        return {k: tuple(p for p in self.components if type(p) is k) for k in kinds}

    def of_type(self, kind: type[P]) -> tuple[P, ...]:
        """All components of one type, in document order."""
        return cast("tuple[P, ...]", self._by_type.get(kind, ()))

    @cached_property
    def sources(self) -> tuple[Source, ...]:
        """Everything that charges, in document order."""
        return tuple(cast(Source, p) for p in self.components if p.charging_posts())

    def nominal_v(self, part: Component) -> float:
        """Voltage [V] that a part is made for: its own where it has one, else the system's."""
        own = part.nominal_v if isinstance(part, Bank | Starter | LoadGroup) else None
        return float(own or self.system_v)

    def stack_on(self, ref: str) -> tuple[str, ...]:
        """Cables on a post from the seat up: as stacked, then the widest first."""
        here = {c.id: c for c in self.cables_on(ref)}
        told = next((s.cables for s in self.stacks if s.post == ref), ())
        first = tuple(i for i in told if i in here)
        rest = sorted((c for i, c in here.items() if i not in first), key=lambda c: -c.area_mm2)
        return (*first, *(c.id for c in rest))

    def post_name(self, ref: str) -> str:
        """A post in words, such as *House bank +*."""
        part_id, _, post = ref.partition(".")
        words = {"pos": "+", "neg": "−"}.get(post, post.replace("_", " "))
        return f"{self.by_id[part_id].name} {words}"

    def cable_name(self, cable: Cable) -> str:
        """A cable in words: where it runs from and to."""
        return f"{self.post_name(cable.start)} to {self.post_name(cable.end)}"
