"""One state of the boat: what runs, what is plugged in, where the switches stand."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Annotated, Literal, get_args

from pydantic import Field

from strom_engine.design.choices import Engine
from strom_engine.design.document import Design
from strom_engine.design.fields import Frozen, Share
from strom_engine.design.joined import joined_posts
from strom_engine.design.parts import (
    Bank,
    Breaker,
    FittedInverter,
    LoadGroup,
    OneWayCombiner,
    OnOffSwitch,
    Relay,
    Starter,
    Switch,
)
from strom_engine.design.validation import suggest
from strom_engine.errors import Problem, StateError

__all__ = [
    "State",
    "Switch",
    "battery_switches",
    "check_state",
    "control_switches",
    "default_positions",
    "feed_switches",
    "position_name",
    "switch_positions",
    "switches",
]

Knots = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]


class State(Frozen):
    """Everything that can be turned, plugged in or switched on; unnamed switches stand as drawn.

    ``running`` names items beyond those of the profile, as ``group.item``: a windlass, say. The
    second engine does ``as_first`` where nothing else is said.
    """

    engine: Literal["off", "on"] = "off"
    rpm: Annotated[float, Field(ge=0, le=6000, allow_inf_nan=False)] = 1400.0
    cranking: bool = False
    second_engine: Literal["as_first", "off", "on"] = "as_first"
    second_cranking: bool = False
    shore: bool = False
    sun: Share = 0.0
    wind_kn: Knots = 0.0
    boat_kn: Knots = 0.0
    profile: str | None = None
    running: Annotated[tuple[str, ...], Field(max_length=2000)] = ()
    positions: dict[str, str] = Field(default_factory=dict)
    previous_states: dict[str, Literal["open", "closed"]] = Field(default_factory=dict)
    soc: dict[str, Share] = Field(default_factory=dict)

    def engine_runs(self, engine: Engine) -> bool:
        """Whether an engine turns by itself."""
        if engine == "second" and self.second_engine != "as_first":
            return self.second_engine == "on" and not self.second_cranking
        cranking = self.cranking if engine == "first" else self.second_cranking
        return self.engine == "on" and not cranking

    def cranks(self, engine: Engine) -> bool:
        """Whether an engine is being started."""
        return self.cranking if engine == "first" else self.second_cranking

    def with_positions(self, positions: Mapping[str, str]) -> State:
        """The same state with the switches elsewhere."""
        return self.model_copy(update={"positions": dict(positions)})


@lru_cache(maxsize=64)
def switches(design: Design) -> tuple[Switch, ...]:
    """Everything with positions that a hand can turn, in document order."""
    return tuple(p for p in design.components if isinstance(p, Switch))


def control_switches(design: Design) -> frozenset[str]:
    """Switches of some milliamps: what leads on from one side of them is thin control wire alone.

    Such a switch disables a relay through its negative, or a remote switch's coil; it joins no
    bank to anything and is no battery switch.
    """
    thin = {f"{p.id}.neg" for p in design.of_type(Relay) + design.of_type(OneWayCombiner)}
    thin |= {ref for ref in design.post_polarity if ref.endswith((".ctrl_pos", ".ctrl_neg"))}
    found = set()
    for switch in design.of_type(OnOffSwitch):
        for own in (f"{switch.id}.a", f"{switch.id}.b"):
            far = [c.end if c.start == own else c.start for c in design.cables_on(own)]
            if far and set(far) <= thin:
                found.add(switch.id)
    return frozenset(found)


def battery_switches(design: Design) -> tuple[Switch, ...]:
    """Switches that a hand turns to choose what feeds what: no breakers, inverters, controls."""
    control = control_switches(design)
    return tuple(
        s
        for s in switches(design)
        if not isinstance(s, Breaker | FittedInverter) and s.id not in control
    )


@lru_cache(maxsize=64)
def feed_switches(design: Design) -> frozenset[str]:
    """Switches and breakers that only cut loads: beyond one of their posts nothing gives or starts.

    How they stand joins no banks, charges nothing and starts no engine.
    """
    sources = {f"{p.id}.{post}" for p in design.components for post in p.charging_posts()}
    ends = sources | {f"{p.id}.pos" for p in design.of_type(Bank)}
    ends |= {f"{p.id}.pos" for p in design.of_type(Starter)}
    sharing = [p for p in design.components if p.facts.counted == "things that share charge"]
    ends |= {f"{p.id}.{post}" for p in sharing for post in p.posts()}
    two_posts = (*design.of_type(OnOffSwitch), *design.of_type(Breaker))
    return frozenset(
        s.id
        for s in two_posts
        if any(not ends & joined_posts(design, f"{s.id}.{post}", s.id) for post in ("a", "b"))
    )


def switch_positions(part: Switch) -> tuple[str, ...]:
    """Positions of a switch in the order in which it turns.

    Args:
        part: a switch of any kind.
    """
    return get_args(type(part).model_fields["position"].annotation)


def position_name(part: Switch, position: str) -> str:
    """A position as it stands on the boat's own switch, with its name where that is another."""
    marks = {m.position: m.words for m in getattr(part, "marks", ())}
    words = marks.get(position)
    return position if words is None else f"{position} ({words})"


def default_positions(design: Design) -> dict[str, str]:
    """Where every switch stands as drawn.

    Args:
        design: the boat, as surveyed.

    Returns:
        Position by id of the switch.
    """
    return {part.id: part.position for part in switches(design)}


def check_state(design: Design, state: State) -> State:
    """The state with every switch's position filled in.

    Raises StateError naming everything in it that the design does not have.

    Args:
        design: the boat, as surveyed.
        state: what runs and where switches stand.

    Returns:
        A state with a position for every switch.
    """
    problems: list[Problem] = []
    known = {part.id: part for part in switches(design)}
    for name, position in state.positions.items():
        part = known.get(name)
        if part is None:
            text = f"there is no switch {name!r}{suggest(name, known)}"
            problems.append(Problem(f"positions.{name}", text))
        elif position not in switch_positions(part):
            text = f"{position!r} is not a position of {part.name}"
            known_words = ", ".join(switch_positions(part))
            problems.append(Problem(f"positions.{name}", f"{text}; known: {known_words}"))
    profiles = [p.id for p in design.profiles]
    if state.profile is not None and state.profile not in profiles:
        text = f"there is no profile {state.profile!r}{suggest(state.profile, profiles)}"
        problems.append(Problem("profile", text))
    banks = [p.id for p in design.of_type(Bank)]
    relays = [p.id for p in design.components if p.moves_itself]
    for key, given, ids in (
        ("soc", state.soc, banks),
        ("previous_states", state.previous_states, relays),
    ):
        for name in given:
            if name not in ids:
                text = f"there is no such part {name!r}{suggest(name, ids)}"
                problems.append(Problem(f"{key}.{name}", text))
    items = {
        f"{p.id}.{item.id}"
        for p in design.components
        if isinstance(p, LoadGroup | FittedInverter)
        for item in p.items
    }
    for name in sorted(set(state.running) - items):
        text = f"there is no item {name!r}{suggest(name, items)}"
        problems.append(Problem("running", text))
    if problems:
        raise StateError(problems)
    return state.with_positions(default_positions(design) | state.positions)
