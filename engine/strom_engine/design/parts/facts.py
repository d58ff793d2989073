"""What holds of every part of a kind whatever its figures, and which figures are asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

__all__ = ["Asked", "Counted", "Facts", "FoundAboard", "GivesBy", "asked", "own", "usual"]

Stands = Literal["bank", "source", "gear", "engine", "load"]
GivesBy = Literal["engine", "shore", "sun", "weather", "input"]
Counted = Literal["banks", "sources", "switches", "things that share charge"]
Words = Mapping[str, str] | Mapping[int, str] | Mapping[bool, str]
Need = Literal["known", "own", "seldom"]


@dataclass(frozen=True)
class FoundAboard:
    """How a part found aboard is landed until somebody has looked.

    ``words`` and ``name`` are what it is added as, ``note`` where it then lies. ``post`` goes to
    the positive of its bank by a cable of ``gauge``; one that ``stays`` keeps its lead on the bank
    when a switch is put behind that.
    """

    words: str
    name: str
    note: str = "on the posts of the bank"
    gauge: str = "8 AWG"
    post: str = "pos"
    stays: bool = False


@dataclass(frozen=True)
class Facts:
    """What holds of every part of a kind.

    ``usual`` are typical figures of one in a 12 V system, makers' data as commonly published.
    ``stands`` is its row in the drawing, ``home`` whose bay it is in where several banks are near.
    ``counted`` is the sort of which a design has no more than so many.

    Its metal: ``side`` of the circuit that it may be in, ``joins`` the posts that its contacts can
    join, ``inline`` where a cable it is put into enters and leaves, ``roles`` what its posts are
    for in words that kinds share, ``swaps`` the kinds it can be changed for. ``through``: current
    only passes, one way in and one out; ``forks``: it parts ways; ``paired``: its positive and
    negative carry one current.

    What it does: ``gives_by`` what makes it charge; ``takes`` current from a feed; ``shares``
    charge between banks by itself; ``scheme``: belongs to how charge is switched and shared;
    ``joined`` the position in which it joins most; ``rest`` and ``moved`` how it stands, and
    ``open_at_rest`` whether that joins nothing. ``rated``: bears its rating for long.
    ``sparks`` and ``heats`` as places ask (ABYC E-11, 33 CFR 183.410; confirm in the edition in
    force).
    """

    word: str
    stands: Stands
    usual: Mapping[str, object] = field(default_factory=dict)
    home: Literal["engine", "house", ""] = ""
    counted: Counted | None = None
    side: Literal["pos", "neg", "both"] = "pos"
    joins: tuple[tuple[str, str], ...] = ()
    inline: tuple[str, str] | None = None
    roles: Mapping[str, str] = field(default_factory=dict)
    swaps: tuple[str, ...] = ()
    through: bool = False
    forks: bool = False
    paired: bool = False
    gives_by: GivesBy | None = None
    takes: bool = False
    shares: bool = False
    scheme: bool = False
    joined: str = "on"
    rest: str = "closed"
    moved: str = "open"
    open_at_rest: bool = False
    rated: bool = False
    sparks: bool = False
    heats: bool = False
    found: FoundAboard | None = None


@dataclass(frozen=True)
class Asked:
    """A figure that people are asked for; its unit, range and choices stand with the field.

    ``known`` ones are to find out while they are empty, ``own`` ones override a usual value where
    somebody has read one, ``seldom`` ones have a usual value that seldom needs a look. ``words``
    name the choices.
    """

    name: str
    label: str
    words: Words = field(default_factory=dict[str, str])
    need: Need = "known"
    petrol_only: bool = False


def asked(name: str, label: str, words: Words | None = None) -> Asked:
    """A figure that has to be known."""
    return Asked(name, label, words or {})


def own(name: str, label: str, words: Words | None = None) -> Asked:
    """A figure that overrides a usual one where somebody has read it."""
    return Asked(name, label, words or {}, "own")


def usual(name: str, label: str, words: Words | None = None) -> Asked:
    """A figure with a usual value that seldom needs a look."""
    return Asked(name, label, words or {}, "seldom")
