"""Figures of banks and alternators that a surveyor asks for beside size and start."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from strom_engine.batteries.limits import charge_limit_a
from strom_engine.batteries.strings import lead_ohm, string_shares
from strom_engine.batteries.ventilation import GAS_SOURCE, gas_of
from strom_engine.design import Alternator, Bank, Design
from strom_engine.reference import CONFIRM, load_table
from strom_engine.sizing.alternator_drive import alternator_drive

__all__ = ["BankCheck", "bank_checks"]


@dataclass(frozen=True)
class BankCheck:
    """One figure of a part: what it is about, the figure in words, its working and source."""

    part: str
    about: str
    figure: str
    working: tuple[str, ...]
    source: str


def bank_checks(design: Design) -> tuple[BankCheck, ...]:
    """Charging limits, current shares of strings, openings for gas, drives of alternators.

    Args:
        design: the boat, as surveyed.

    Returns:
        Banks first, in document order; a space's opening stands at its first lead bank.
    """
    return (
        *(check for bank in design.of_type(Bank) for check in _of_bank(design, bank)),
        *(_drive(alternator) for alternator in design.of_type(Alternator)),
    )


def _of_bank(design: Design, bank: Bank) -> Iterator[BankCheck]:
    limit_a, why = charge_limit_a(bank)
    source = f"{load_table('battery_chemistry').citation}; {CONFIRM}"
    yield BankCheck(bank.id, "May be charged with", f"{limit_a:.0f} A", (f"{why}.",), source)
    if bank.parallel > 1:
        yield _shares(bank)
    here = [b for b in design.of_type(Bank) if b.place is not None and b.place == bank.place]
    first = next((b.id for b in here or [bank] if gas_of([b]).air_m3_h > 0), None)
    if first == bank.id:
        gas = gas_of(here or [bank])
        yield BankCheck(
            bank.id,
            "Its space needs an opening for gas of",
            f"{gas.opening_cm2:.0f} cm² in, and out",
            gas.working,
            f"{GAS_SOURCE}; {CONFIRM}",
        )


def _shares(bank: Bank) -> BankCheck:
    def amps(*, opposite: bool) -> str:
        return ", ".join(f"{100 * s:.0f}" for s in string_shares(bank, opposite=opposite))

    taken = {"opposite": True, "one_end": False, None: False}[bank.take_off]
    lines = (
        f"Taken off at opposite ends: {amps(opposite=True)} A.",
        f"Taken off at one end: {amps(opposite=False)} A.",
        f"Leads of {1000 * lead_ohm(bank):.2f} mΩ between strings; equal batteries.",
    )
    known = "" if bank.take_off else ", if at one end"
    return BankCheck(
        bank.id,
        "Of 100 A its strings give",
        f"{amps(opposite=taken)} A{known}",
        lines,
        f"Nodal analysis of its leads; ABYC E-10, batteries in parallel; {CONFIRM}",
    )


def _drive(part: Alternator) -> BankCheck:
    drive = alternator_drive(part)
    return BankCheck(
        part.id,
        "Gives at idle and at cruise",
        f"{drive.idle_a:.0f} A and {drive.cruise_a:.0f} A, {drive.shaft_kw:.1f} kW at its shaft",
        drive.working,
        f"Makers' output curves as commonly published; {CONFIRM}",
    )
