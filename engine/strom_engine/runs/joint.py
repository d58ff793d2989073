"""Sizes of all cables of a path chosen together: the cheapest set that loses little enough."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

__all__ = ["Option", "cheapest_sizes"]


@dataclass(frozen=True)
class Option:
    """One size that a cable could have: its area [mm2] and what the whole cable then costs."""

    area_mm2: float
    cost: float


Choice = tuple[tuple[str, int], ...]
Front = list[tuple[float, float, Choice]]  # cost, volts lost [V], which options


def cheapest_sizes(
    options: Mapping[str, Sequence[Option]],
    volt_mm2: Mapping[str, float],
    most_v: float,
    as_large: Sequence[tuple[str, str]] = (),
) -> dict[str, int] | None:
    """For each cable the place of its option, so that together they cost least.

    One option a cable, the sum of ``volt_mm2 / area`` within the limit, the second of each pair
    ``as_large`` no thinner than the first. Exact: cable by cable, every set of sizes is kept that
    no other one beats in both cost and volts (dynamic programming over the Pareto front).

    Args:
        options: sizes of each cable, by its id.
        volt_mm2: volts that each loses at 1 mm2 [V mm2].
        most_v: what they may lose together [V].
        as_large: pairs of cables, the positive before its negative.

    Returns:
        The choice, or None where no set of sizes keeps the limit.

    >>> sizes = (Option(10.0, 1.0), Option(20.0, 2.0), Option(40.0, 4.0))
    >>> cheapest_sizes({"a": sizes, "b": sizes}, {"a": 4.0, "b": 1.0}, 0.26)
    {'a': 1, 'b': 1}
    >>> cheapest_sizes({"a": sizes, "b": sizes}, {"a": 4.0, "b": 1.0}, 0.1) is None
    True
    """
    outs_of: dict[str, list[str]] = {}
    for out, back in as_large:
        outs_of.setdefault(back, []).append(out)
    paired = {out for outs in outs_of.values() for out in outs}
    front: Front = [(0.0, 0.0, ())]
    for name in (n for n in options if n not in paired):
        sets = _sets(name, outs_of.get(name, ()), options, volt_mm2)
        front = _beating(one for one in _together(front, sets) if one[1] <= most_v)
    if not front:
        return None
    chosen = dict(min(front)[2])
    return {name: chosen[name] for name in options}


def _sets(
    name: str,
    outs: Sequence[str],
    options: Mapping[str, Sequence[Option]],
    volt_mm2: Mapping[str, float],
) -> Front:
    """Sizes of a cable, with those of every positive that it is the negative of."""
    found: Front = []
    for place, option in enumerate(options[name]):
        front: Front = [(option.cost, volt_mm2[name] / option.area_mm2, ((name, place),))]
        most_mm2 = (1 + 1e-9) * option.area_mm2
        for out in outs:
            front = _beating(
                _together(
                    front,
                    [
                        (o.cost, volt_mm2[out] / o.area_mm2, ((out, n),))
                        for n, o in enumerate(options[out])
                        if o.area_mm2 <= most_mm2
                    ],
                )
            )
        found += front
    return _beating(found)


def _together(first: Front, second: Front) -> Front:
    """Every set of the one with every set of the other."""
    return [(a + b, c + d, e + f) for a, c, e in first for b, d, f in second]


def _beating(sets: Iterable[tuple[float, float, Choice]]) -> Front:
    """Those that none beats: the cheaper they are, the more they lose."""
    front: Front = []
    for cost, volts, choice in sorted(sets):
        if not front or volts < front[-1][1]:
            front.append((cost, volts, choice))
    return front
