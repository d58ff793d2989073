"""The current each cable is sized for, and where that figure comes from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from strom_engine.circuit.constants import COIL_A
from strom_engine.design import (
    Alternator,
    Charger,
    Component,
    DcDc,
    Design,
    DualSwitch,
    FittedGenerator,
    FittedInverter,
    LoadGroup,
    OneWayCombiner,
    OnOffSwitch,
    Relay,
    Solar,
)
from strom_engine.runs.converters import returns_a
from strom_engine.runs.load_cases import LoadCase, cranking_strains, lasting_strains
from strom_engine.runs.wiring import wiring

__all__ = ["DesignCurrent", "design_currents", "device_currents"]

THIN_A = 0.5  # a sense lead, a relay's reference, a coil; own judgement, above what they draw
INVERTER_EFFICIENCY = 0.85  # at full output; makers' data as commonly published
Origin = Literal["computed", "rated", "typed"]


@dataclass(frozen=True)
class DesignCurrent:
    """What a cable is sized for [A]: the larger of computed and rated, unless typed in.

    ``lasting_a`` flows for hours, ``amps`` at least for minutes, ``brief_a`` for seconds, as in a
    start.
    """

    amps: float
    lasting_a: float
    origin: Origin
    words: str
    computed_a: float
    computed_in: str
    rated_a: float | None
    rated_by: str
    brief_a: float
    brief_in: str

    @property
    def working(self) -> tuple[str, ...]:
        """The working, line by line."""
        lines = [f"Largest computed: {self.computed_a:.1f} A ({self.computed_in})."]
        if self.rated_a is not None:
            lines.append(f"Rated: {self.rated_a:.1f} A ({self.rated_by}).")
        if self.lasting_a < self.amps - 0.05:
            lines.append(f"Of it {self.lasting_a:.1f} A for hours, the rest for minutes.")
        if self.brief_a > 0.5:
            lines.append(f"For seconds: {self.brief_a:.0f} A ({self.brief_in}).")
        lines.append(f"Sized for {self.amps:.1f} A: {self.words}.")
        return tuple(lines)


@lru_cache(maxsize=32)
def design_currents(design: Design) -> dict[str, DesignCurrent]:
    """Design current of every cable by its id."""
    rated = _rated(design)
    lasting, brief = lasting_strains(design), cranking_strains(design)
    found = {}
    for cable in design.cables:
        computed_a, computed_in = largest(lasting, cable.id)
        hours_a, _ = largest(tuple(s for s in lasting if not s.brief), cable.id)
        brief_a, brief_in = largest(brief, cable.id)
        rated_a, rated_by, brief_rated = rated.get(cable.id, (None, "", False))
        origin: Origin = "computed"
        amps, words = computed_a, f"the largest computed ({computed_in})"
        if cable.purpose == "sense":
            rated_a, rated_by = THIN_A, "a sense lead"
        if rated_a is not None and rated_a > computed_a:
            amps, origin, words = rated_a, "rated", f"what is rated ({rated_by})"
        if rated_a is not None and not brief_rated:
            hours_a = max(hours_a, rated_a)
        if cable.current_a is not None:
            amps, origin, words = cable.current_a, "typed", "typed in"
            hours_a = amps
        found[cable.id] = DesignCurrent(
            amps=amps,
            lasting_a=hours_a,
            origin=origin,
            words=words,
            computed_a=computed_a,
            computed_in=computed_in,
            rated_a=rated_a,
            rated_by=rated_by,
            brief_a=brief_a,
            brief_in=brief_in,
        )
    return found


def device_currents(design: Design, device: str) -> tuple[DesignCurrent | None, float]:
    """What passes a device: a design current, and for seconds [A].

    ``device`` is a part's id, or ``bus.b2`` for a branch of a fused bus. That of the one cable on
    a post of it; where several hang on both, what is computed through the device itself.
    """
    part, _, branch = device.partition(".")
    posts = [f"{part}.{branch}"] if branch else [f"{part}.a", f"{part}.b"]
    wires, currents = wiring(design), design_currents(design)
    alone = [currents[on[0].id] for post in posts if len(on := wires.on_post[post]) == 1]
    if not alone:
        through = _through(design, f"{part}.{branch or 'a'}")
        return (through, through.brief_a) if any(wires.on_post[p] for p in posts) else (None, 0.0)
    lasting = min(alone, key=lambda c: c.amps)
    return lasting, min(c.brief_a for c in alone)


def _through(design: Design, contact: str) -> DesignCurrent:
    """The largest current computed through a contact."""
    lasting, brief = lasting_strains(design), cranking_strains(design)
    computed_a, computed_in = largest(lasting, contact)
    hours_a, _ = largest(tuple(s for s in lasting if not s.brief), contact)
    brief_a, brief_in = largest(brief, contact)
    return DesignCurrent(
        amps=computed_a,
        lasting_a=hours_a,
        origin="computed",
        words=f"the largest computed ({computed_in})",
        computed_a=computed_a,
        computed_in=computed_in,
        rated_a=None,
        rated_by="",
        brief_a=brief_a,
        brief_in=brief_in,
    )


def largest(load_cases: tuple[LoadCase, ...], cable: str) -> tuple[float, str]:
    """Largest current of a cable over states [A], and the state in words."""
    found = max(load_cases, key=lambda s: abs(s.point.conductor_a.get(cable, 0.0)), default=None)
    if found is None:
        return 0.0, "never"
    return abs(found.point.conductor_a.get(cable, 0.0)), found.words


def _rated(design: Design) -> dict[str, tuple[float, str, bool]]:
    """What is rated at a part, for every cable in a row with it: amps, the part, whether brief."""
    wires = wiring(design)
    found: dict[str, tuple[float, str, bool]] = {}
    for part in design.components:
        for post, amps in _rated_posts(design, part).items():
            ref = f"{part.id}.{post}"
            if len(wires.on_post[ref]) != 1 and not _own_cable(part, post):
                continue
            for cable in wires.on_post[ref]:
                for name in wires.chain(cable, ref):
                    if amps > found.get(name, (0.0, "", False))[0]:
                        found[name] = (amps, part.name, _brief(part))
    for name, (amps, whose) in returns_a(design).items():
        if amps > found.get(name, (0.0, "", False))[0]:
            found[name] = (amps, f"the return of {whose}", False)
    return found


def _brief(part: Component) -> bool:
    """Whether what is rated at a part runs for minutes only: its largest item does."""
    if not isinstance(part, LoadGroup):
        return False
    return max(part.items, key=lambda item: item.draw_a).brief


def _own_cable(part: Component, post: str) -> bool:
    """Whether a cable on a post is the part's own even beside another one."""
    return post == "ctrl_pos" and isinstance(part, OnOffSwitch | DualSwitch)


def full_inverter_a(part: FittedInverter) -> float:
    """What an inverter takes at its rated power, its bank just above where it cuts out [A]."""
    return part.rated_w / INVERTER_EFFICIENCY / part.cut_out_v


def _rated_posts(design: Design, part: Component) -> dict[str, float]:
    """Posts of a part with the lasting current that its label promises [A]."""
    match part:
        case Alternator():
            return {"out": part.rated_a, "neg": part.rated_a}
        case Charger():
            outs = {f"out{n}": part.rated_a for n in range(1, part.outputs + 1)}
            return outs | {"neg": part.rated_a}
        case Solar() | FittedGenerator():
            return {"pos": part.label_a, "neg": part.label_a}
        case FittedInverter():
            amps = max(full_inverter_a(part), part.charger_a or 0.0)
            return {"pos": amps, "neg": amps}
        case DcDc():
            both_a = max(part.takes_a, part.output_limit_a)
            own = {"in": part.takes_a, "out": part.output_limit_a, "neg": both_a}
            return own | ({"out_neg": part.output_limit_a} if part.isolated else {})
        case Relay():
            # It carries the charge of the strongest source on either side, up to its rating.
            strongest = max((s.label_a for s in design.sources), default=0.0)
            amps = min(part.rating_a, strongest)
            return {"a": amps, "b": amps, "neg": THIN_A}
        case OneWayCombiner():
            return {"in": part.limit_a, "out": part.limit_a, "neg": THIN_A}
        case LoadGroup(items=(_, *_)):
            largest_item = max(item.draw_a for item in part.items)
            return {"pos": largest_item, "neg": largest_item}
        case _:
            coil = COIL_A * 12 / design.system_v
            thin = {"ctrl_pos": coil, "ctrl_neg": coil}
            return {post: a for post, a in thin.items() if post in part.posts()}
