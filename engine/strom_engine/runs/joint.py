"""Sizes of all cables of a path chosen together: the cheapest set that loses little enough."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

__all__ = ["Option", "cheapest_sizes"]

SPARE_V = 1e-6  # for what the solver rounds


@dataclass(frozen=True)
class Option:
    """One size that a cable could have: its area [mm2] and what the whole cable then costs."""

    area_mm2: float
    cost: float


def cheapest_sizes(
    options: Mapping[str, Sequence[Option]],
    volt_mm2: Mapping[str, float],
    most_v: float,
    as_large: Sequence[tuple[str, str]] = (),
) -> dict[str, int] | None:
    """For each cable the place of its option, so that together they cost least.

    A mixed-integer program, solved by HiGHS: one option a cable, the sum of ``volt_mm2 / area``
    within the limit, the second of each pair ``as_large`` no thinner than the first.

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
    names = tuple(options)
    starts = np.cumsum([0, *(len(options[name]) for name in names)])
    count = int(starts[-1])
    cost = np.array([o.cost for name in names for o in options[name]])
    lost = np.array([volt_mm2[name] / o.area_mm2 for name in names for o in options[name]])
    area = np.array([o.area_mm2 for name in names for o in options[name]])
    place = {name: slice(starts[n], starts[n + 1]) for n, name in enumerate(names)}
    one_each = np.zeros((len(names), count))
    for n, name in enumerate(names):
        one_each[n, place[name]] = 1
    limits = [LinearConstraint(one_each, 1, 1), LinearConstraint(lost[None, :], ub=most_v)]
    for out, back in as_large:
        row = np.zeros((1, count))
        row[0, place[back]] = area[place[back]]
        row[0, place[out]] -= area[place[out]]
        limits.append(LinearConstraint(row, lb=-1e-3))
    found = milp(cost, integrality=np.ones(count), bounds=Bounds(0, 1), constraints=limits)
    if found.x is None:
        return None
    choice = {name: int(np.argmax(found.x[place[name]])) for name in names}
    together = sum(volt_mm2[n] / options[n][k].area_mm2 for n, k in choice.items())
    return choice if together <= most_v + SPARE_V else None
