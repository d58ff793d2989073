"""What a bank may be charged with."""

from __future__ import annotations

from strom_engine.design import Bank
from strom_engine.reference import chemistry

__all__ = ["charge_limit_a"]


def charge_limit_a(bank: Bank) -> tuple[float, str]:
    """What a bank may be charged with [A], by its maker or usual for its chemistry, and why.

    Args:
        bank: its capacity, chemistry and own figure.
    """
    if bank.unit_charge_a is not None:
        limit_a = bank.unit_charge_a * bank.parallel
        return limit_a, f"{bank.parallel} x {bank.unit_charge_a:g} A by its maker = {limit_a:.0f} A"
    share = chemistry(bank.chemistry).max_charge_c
    limit_a = share * bank.capacity_ah
    return limit_a, f"{share:g} x {bank.capacity_ah:.0f} Ah, usual for its kind = {limit_a:.0f} A"
