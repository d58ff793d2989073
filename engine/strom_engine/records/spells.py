"""Spells of charging in a trace: when, from what, its stages, and what came of each."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Literal
from zoneinfo import ZoneInfo

import numpy as np

from strom_engine.design import Alternator, Bank, Charger, Design, Solar
from strom_engine.errors import Problem, StateError
from strom_engine.records.trace import Column, Trace
from strom_engine.reference import chemistry
from strom_engine.sizing.solar import DEFAULT_LATITUDE_DEG, STEP_H, clear_sky_w

__all__ = ["ChargingSpell", "DrivenBy", "Shunted", "SpellSource", "charging_spells"]

SpellSource = Literal["engine", "shore", "sun", "unknown"]
DrivenBy = Literal["engine", "shore", "both"]
# Own judgement, at 12 V and as shares of the capacity, unless said otherwise.
CHARGING_V = {"lead": 13.25, "lithium": 13.5}  # above what each rests at
CHARGING_SHARE, LEAST_CHARGING_A, IDLE_SHARE = 0.01, 1.0, 0.01
HOLE_S = 600.0  # a shorter break is a load or a passing cloud, not the end of a spell
LEAST_SPELL_S = 600.0
JUMP_SHARE, JUMP_A = 0.4, 6.0  # of its label: what a machine or a charger adds at once
LOADS_TIMES = 1.3
SUNNY_SHARE, CLOCK_OFF_H = 0.8, 1.5  # a clock is off the sun by summer time and place
AT_ONCE_S, BEGINS_S, STAYS = 60.0, 180.0, 0.6
SUNNY_HOLE_S = 2700.0  # of a sunny day: loads take more than the sun gives for so long
NEAR_HELD_V = 0.12  # of the highest volts: absorbing
FLOAT_BELOW_V = 0.25  # of the highest volts: floating
FLOAT_LASTS_S = 900.0
SETTLED_S, EARLY_S = 120.0, 900.0  # of a spell: from here to here its first amps are read
LATE_S = (1800.0, 2700.0)
BEFORE_FLOAT_S = 600.0
LONG_SHORE_S = 9 * 3600.0  # no engine runs for so long every day


@dataclass(frozen=True)
class Shunted:
    """Where records come from: the bank with the shunt, the IANA name of the zone that the boat
    lies in and its latitude [deg], and what charged it beside the sun, where somebody knows: a
    shunt cannot tell a machine from a charger."""

    bank: str
    zone: str = "UTC"
    latitude_deg: float = DEFAULT_LATITUDE_DEG
    driven: DrivenBy = "both"

    def of(self, design: Design) -> Bank:
        """The bank. Raises StateError where a design has none of that id."""
        bank = design.by_id.get(self.bank)
        if not isinstance(bank, Bank):
            raise StateError([Problem("bank", f"there is no bank {self.bank!r}")])
        return bank


@dataclass(frozen=True)
class ChargingSpell:
    """One spell from [s] to [s], in UTC.

    ``put_in_ah``: charge put in [Ah]; ``first_a``: amps after two to fifteen minutes, ``late_a``
    after thirty to forty-five; ``held_v``: the volts it is held at; ``float_s``: when float began,
    ``charge_at_float`` how full the monitor had the bank then [-], ``before_float_a`` amps in the
    ten minutes before it; ``cycles_an_hour``: how often charging came and went. None where it
    cannot be told.
    """

    start_s: float
    end_s: float
    source: SpellSource
    put_in_ah: float
    first_a: float | None
    late_a: float | None
    held_v: float | None
    float_s: float | None
    charge_at_float: float | None
    before_float_a: float | None
    cycles_an_hour: float

    @property
    def hours(self) -> float:
        """How long it lasts [h]."""
        return (self.end_s - self.start_s) / 3600

    @property
    def minutes_to_float(self) -> float | None:
        """From its beginning to float [min]."""
        return None if self.float_s is None else (self.float_s - self.start_s) / 60


def charging_spells(trace: Trace, design: Design, shunt: Shunted) -> tuple[ChargingSpell, ...]:
    """Every spell of charging, in order, with its likely source.

    Args:
        trace: of the bank.
        design: the boat, for its sources.
        shunt: the bank that was recorded, the zone of the boat, what charged it.
    """
    bank = shunt.of(design)
    found: list[ChargingSpell] = []
    jump_a = _jump_a(trace, design, bank)
    for stretch in trace.unbroken():
        for start, end in _parted(stretch, jump_a, *_spans(stretch, bank)):
            spell = _spell(stretch.part(start, end), bank)
            source = _source(spell, design, _rises(stretch, start, jump_a), shunt)
            spell = replace(spell, source=source)
            if found and _goes_on(found[-1], spell):
                found[-1] = _joined(found[-1], spell)
            elif spell.end_s - spell.start_s >= LEAST_SPELL_S:
                found.append(spell)
    return tuple(found)


def _goes_on(before: ChargingSpell, spell: ChargingSpell) -> bool:
    """Whether a spell is the one before, after a load or a cloud."""
    hole_s = SUNNY_HOLE_S if spell.source == "sun" else 1.0
    return before.source == spell.source and spell.start_s - before.end_s <= hole_s


def _joined(one: ChargingSpell, two: ChargingSpell) -> ChargingSpell:
    """Two pieces of one spell: amps as it began, float where it began first."""
    floating = one if one.float_s is not None else two
    return replace(
        one,
        end_s=two.end_s,
        put_in_ah=one.put_in_ah + two.put_in_ah,
        float_s=floating.float_s,
        charge_at_float=floating.charge_at_float,
        before_float_a=floating.before_float_a,
        held_v=max((v for v in (one.held_v, two.held_v) if v is not None), default=None),
        cycles_an_hour=max(one.cycles_an_hour, two.cycles_an_hour),
    )


def _scale(bank: Bank) -> float:
    return bank.nominal_v / 12


def _jump_a(trace: Trace, design: Design, bank: Bank) -> float:
    """Amps at once that tell a source from a load: more than loads step by, less than a source."""
    rated = [s.rated_a for s in design.of_type(Alternator)]
    rated += [s.rated_a for s in design.of_type(Charger)]
    most_a = max(JUMP_SHARE * min(rated, default=0.0), JUMP_A)
    amps_a, free = _amps(trace), ~_charging(trace, bank)
    ahead = max(1, int(BEGINS_S / max(trace.every_s, 1.0)))
    steps = np.abs(amps_a[ahead:] - amps_a[:-ahead])[free[ahead:] & free[:-ahead]]
    loads_a = float(np.percentile(steps, 99.9)) if len(steps) else 0.0
    return min(max(LOADS_TIMES * loads_a, JUMP_A), most_a)


def _amps(trace: Trace) -> Column:
    """Amps, none where they were not recorded."""
    return np.nan_to_num(trace.column("amps_a"))


def _charging(trace: Trace, bank: Bank) -> np.ndarray:
    """Rows in which something charges the bank."""
    family = chemistry(bank.chemistry).family
    limit_v = CHARGING_V.get(family, CHARGING_V["lead"]) * _scale(bank)
    amps_a, volts_v = trace.column("amps_a"), trace.column("volts_v")
    least_a = max(LEAST_CHARGING_A, CHARGING_SHARE * bank.capacity_ah)
    held = (volts_v > limit_v) & ~(amps_a < -IDLE_SHARE * bank.capacity_ah)
    found: np.ndarray = (amps_a > least_a) | held
    return found


def _spans(trace: Trace, bank: Bank) -> tuple[list[int], list[int]]:
    """Beginnings and ends of spells, short holes closed."""
    on = np.concatenate(([False], _charging(trace, bank), [False]))
    starts = np.flatnonzero(on[1:] & ~on[:-1]).tolist()
    ends = np.flatnonzero(~on[1:] & on[:-1]).tolist()
    hole_s = max(HOLE_S, 1.5 * trace.every_s)
    firsts: list[int] = []
    lasts: list[int] = []
    for start, end in zip(starts, ends, strict=True):
        if lasts and trace.at_s[start] - trace.at_s[lasts[-1] - 1] <= hole_s:
            lasts[-1] = end
        else:
            firsts.append(start)
            lasts.append(end)
    return firsts, lasts


def _parted(
    trace: Trace, jump_a: float, starts: list[int], ends: list[int]
) -> Iterator[tuple[int, int]]:
    """Spells parted where a source comes in or goes at once, as an engine on a sunny day."""
    amps_a = _amps(trace)
    wide = max(2, int(HOLE_S / max(trace.every_s, 1.0)))
    ahead = max(1, int(AT_ONCE_S / max(trace.every_s, 1.0)))
    for start, end in zip(starts, ends, strict=True):
        cuts = [start]
        steps = amps_a[start + ahead : end] - amps_a[start : end - ahead]
        for n in np.flatnonzero(np.abs(steps) > jump_a) + start + 1:
            if n - cuts[-1] <= wide or n + wide > end:
                continue
            before = float(np.median(amps_a[n - wide : n]))
            after = float(np.median(amps_a[n : n + wide]))
            step = float(steps[n - start - 1])
            if abs(after - before) > STAYS * jump_a and (after > before) == (step > 0):
                cuts.append(int(n))
        yield from zip(cuts, [*cuts[1:], end], strict=True)


def _rises(trace: Trace, start: int, jump_a: float) -> float:
    """Amps that came at once with a spell, in jumps of a source [-]."""
    amps_a = _amps(trace)
    if start == 0:
        return 0.0
    after = amps_a[start : start + max(2, int(BEGINS_S / max(trace.every_s, 1.0)))]
    before = amps_a[max(0, start - 2) : start]
    return float(after.max() - before.mean()) / jump_a


def _mean(values: Column) -> float | None:
    known = values[np.isfinite(values)]
    return float(known.mean()) if len(known) else None


def _spell(part: Trace, bank: Bank) -> ChargingSpell:
    start_s = float(part.at_s[0])
    end_s = float(part.at_s[-1]) + part.every_s
    amps_a, volts_v = part.column("amps_a"), part.column("volts_v")
    since_s = part.at_s - start_s

    def amps(low_s: float, high_s: float) -> float | None:
        return _mean(amps_a[(since_s >= low_s) & (since_s <= high_s)])

    volts_known = volts_v[np.isfinite(volts_v)]
    held_v = float(np.percentile(volts_known, 97)) if len(volts_known) else None
    at = None if held_v is None else _float_row(part, bank, held_v)
    float_s = None if at is None else float(part.at_s[at])
    on = _charging(part, bank)
    cycles = int((on[1:] & ~on[:-1]).sum())
    before_a = (
        None if float_s is None else amps(float_s - start_s - BEFORE_FLOAT_S, float_s - start_s - 1)
    )
    late_a = amps(*LATE_S) if float_s is None or float_s - start_s > LATE_S[1] else None
    return ChargingSpell(
        start_s=start_s,
        end_s=end_s,
        source="unknown",
        put_in_ah=float(np.nansum(np.maximum(amps_a, 0) * part.lasts_s)) / 3600,
        first_a=amps(SETTLED_S, max(EARLY_S, SETTLED_S + 1.5 * part.every_s)),
        late_a=late_a,
        held_v=held_v,
        float_s=float_s,
        charge_at_float=None if at is None else charge_of(part, bank, max(0, at - 1)),
        before_float_a=before_a,
        cycles_an_hour=cycles / max((end_s - start_s) / 3600, 0.25),
    )


def charge_of(trace: Trace, bank: Bank, row: int) -> float | None:
    """How full the monitor had the bank at a row [-]."""
    if trace.has("charge"):
        value = float(trace.column("charge")[row])
    elif trace.has("counted_ah"):
        value = 1 + float(trace.column("counted_ah")[row]) / bank.capacity_ah
    else:
        return None
    return value if np.isfinite(value) else None


def _float_row(part: Trace, bank: Bank, held_v: float) -> int | None:
    """The row at which volts fall from absorption to float, and stay there."""
    scale = _scale(bank)
    volts_v, amps_a = part.column("volts_v"), _amps(part)
    absorbing = np.flatnonzero(volts_v >= held_v - NEAR_HELD_V * scale)
    if not len(absorbing):
        return None
    low = volts_v < held_v - FLOAT_BELOW_V * scale
    idle_a = max(2 * LEAST_CHARGING_A, 0.03 * bank.capacity_ah)
    for row in np.flatnonzero(low[absorbing[0] :]) + absorbing[0]:
        until = int(np.searchsorted(part.at_s, part.at_s[row] + FLOAT_LASTS_S))
        stays = volts_v[row:until]
        if until > len(part) - 1 or len(stays) < 2:
            return None
        calm = np.median(amps_a[row:until]) < idle_a
        if low[row:until].all() and calm and stays.std() < FLOAT_BELOW_V * scale:
            return int(row)
    return None


def _source(spell: ChargingSpell, design: Design, rises: float, shunt: Shunted) -> SpellSource:
    """What it likely comes from: by how it begins, what the sun can give, how long it lasts."""
    bank = shunt.of(design)
    by_day = _by_day(spell.start_s, shunt)
    if by_day and design.of_type(Solar) and (rises < 1.0 or _could_be_sun(spell, design)):
        return "sun"
    if rises < 1.0 and (spell.first_a or 0.0) < CHARGING_SHARE * bank.capacity_ah:
        return "unknown"  # surface charge that a source has left
    machines = bool(design.of_type(Alternator)) and shunt.driven != "shore"
    chargers = bool(design.of_type(Charger)) and shunt.driven != "engine"
    if not (machines and chargers):
        return "engine" if machines else "shore" if chargers else "unknown"
    return "shore" if spell.end_s - spell.start_s >= LONG_SHORE_S else "engine"


def _by_day(at_s: float, shunt: Shunted) -> bool:
    """Whether the sun is up at a moment [s], an hour and a half more or less by the clock."""
    at = datetime.fromtimestamp(at_s, UTC).astimezone(ZoneInfo(shunt.zone))
    lit = clear_sky_w(round(shunt.latitude_deg, 1), at.month)
    hour = at.hour + at.minute / 60
    near = range(int((hour - CLOCK_OFF_H) / STEP_H), int((hour + CLOCK_OFF_H) / STEP_H) + 1)
    return any(lit[n % len(lit)] > 0 for n in near)


def _could_be_sun(spell: ChargingSpell, design: Design) -> bool:
    """Whether it begins with no more than the panels give."""
    most_a = sum(p.panel_w for p in design.of_type(Solar)) / design.system_v
    return (spell.first_a or 0.0) < SUNNY_SHARE * most_a
