"""A proving test: what is measured or looked at, in which state, and what it should show."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Literal, TypedDict, Unpack

from strom_engine.design import State
from strom_engine.prove.probing import Probe
from strom_engine.prove.ranges import Range

__all__ = ["GROUPS", "Draft", "Group", "ProvingTest", "look", "measure", "unsettled"]

Group = Literal["cold", "power on", "positions", "sharing", "engine", "runs"]
GROUPS: dict[Group, str] = {
    "cold": "Cold, before power",
    "power on": "Power on",
    "positions": "Positions under load",
    "sharing": "Sharing charge",
    "engine": "Engine",
    "runs": "Runs under load",
}


@dataclass(frozen=True)
class Draft:
    """A test before its range is computed.

    ``useful`` is the half width of a range [V or A] beyond which the test proves nothing;
    ``charged`` how much more of its charge [-] each bank has by then; ``unrested``: the range is
    that of what is known before today's rest volts.
    """

    key: str
    group: Group
    title: str
    part: str
    misses: tuple[str, ...] = ()
    expects: str = ""
    state: State | None = None
    probe: Probe | None = None
    useful: float = 0.0
    how: str = ""
    caution: str = ""
    minutes: float = 1.0
    charged: Mapping[str, float] = field(default_factory=dict)
    unrested: bool = False


@dataclass(frozen=True)
class ProvingTest:
    """A test in working order.

    ``setup`` is what has to be set before it, ``how`` where the meter is held, ``expects`` what
    is looked at instead of a meter, ``wanted`` the range of its reading. ``proves_nothing`` says
    why a range is too wide, and what to find out first. ``misses`` are what a miss points to.
    """

    key: str
    group: Group
    title: str
    part: str
    place: str | None
    how: str
    setup: tuple[str, ...]
    state: State | None
    probe: Probe | None
    unit: str
    expects: str
    wanted: Range | None
    proves_nothing: str
    misses: tuple[str, ...]
    caution: str
    minutes: float
    charged: Mapping[str, float]


class More(TypedDict, total=False):
    """What a draft may say beyond what it is."""

    unrested: bool
    misses: tuple[str, ...]
    state: State
    how: str
    caution: str
    minutes: float
    charged: Mapping[str, float]


def look(
    key: str, group: Group, title: str, part: str, expects: str, **more: Unpack[More]
) -> Draft:
    """Something that is looked at, and answered yes or no."""
    return Draft(key=key, group=group, title=title, part=part, expects=expects, **more)


def measure(
    key: str,
    group: Group,
    title: str,
    part: str,
    at: tuple[State, Probe, float],
    **more: Unpack[More],
) -> Draft:
    """Something that is measured: in a state, with a probe, useful up to a half width."""
    state, probe, useful = at
    draft = Draft(key=key, group=group, title=title, part=part, **more)
    return replace(draft, state=state, probe=probe, useful=useful)


def unsettled(key: str, group: Group, title: str, part: str, state: State) -> Draft:
    """A test of a state in which the boat finds no rest: nothing is predicted, and that is said."""
    expects = "cannot be computed: the circuit finds no rest in this state; find out why first"
    return look(key, group, title, part, expects, state=state)
