"""How strings in parallel share a current: by their leads and by where the bank is taken off."""

from __future__ import annotations

import numpy as np

from strom_engine.batteries.source import FULL_SOC, bank_source
from strom_engine.design import Bank

__all__ = ["LINK_OHM", "lead_ohm", "string_shares"]

# A lead from one battery to the next: 0.3 m of 1/0 AWG and two lugs of 0.2 mohm.
LINK_OHM = 0.0005


def lead_ohm(bank: Bank) -> float:
    """Resistance of a lead between two of a bank's strings [ohm], measured or usual."""
    return bank.link_ohm or LINK_OHM


def string_shares(bank: Bank, *, opposite: bool | None = None) -> tuple[float, ...]:
    """Share of each string in the bank's current [-], in a row from where the plus is taken off.

    Equal batteries behind equal leads, plus to plus and minus to minus; nodal analysis. Valid for
    short times: later the harder worked string sinks, and the shares come nearer.

    Args:
        bank: strings, resistance of one, leads.
        opposite: whether minus is taken off at the other end; None is as the bank is.

    Returns:
        One a string; their sum is 1.

    >>> from strom_engine.design import Bank
    >>> kind = {"chemistry": "agm", "unit_ah": 100, "temperature_c": 25, "parallel": 2}
    >>> two = Bank.model_validate({"id": "b", "name": "B", "role": "house", "soc": 1} | kind)
    >>> [round(s, 3) for s in string_shares(two, opposite=False)]
    [0.556, 0.444]
    >>> [round(s, 3) for s in string_shares(two, opposite=True)]
    [0.5, 0.5]
    """
    count = bank.parallel
    string_s = 1 / (bank_source(bank, FULL_SOC).resistance_ohm * count)
    link_s = 1 / lead_ohm(bank)
    far = bank.take_off == "opposite" if opposite is None else opposite
    # Unknowns: volts of the plus rail and of the minus rail, less those of a string at rest.
    g = np.zeros((2 * count, 2 * count))
    for n in range(count):
        _join(g, n, count + n, string_s)
        if n + 1 < count:
            _join(g, n, n + 1, link_s)
            _join(g, count + n, count + n + 1, link_s)
    drawn = np.zeros(2 * count)
    ground = 2 * count - 1 if far else count
    drawn[0] = -1.0
    kept = [i for i in range(2 * count) if i != ground]
    volts = np.zeros(2 * count)
    volts[kept] = np.linalg.solve(g[np.ix_(kept, kept)], drawn[kept])
    return tuple(float((volts[count + n] - volts[n]) * string_s) for n in range(count))


def _join(g: np.ndarray, a: int, b: int, siemens: float) -> None:
    g[a, a] += siemens
    g[b, b] += siemens
    g[a, b] -= siemens
    g[b, a] -= siemens
