"""The parts that a boat of a kind usually has aboard, as documents with assumed figures."""

from __future__ import annotations

from typing import Any

from strom_engine.reference import chemistry, cranking_amps

__all__ = ["Json", "parts_of"]

Json = dict[str, Any]  # Any: a document on its way, read and checked as a whole
BANK_FIELDS = ["chemistry", "unit_ah", "unit_cca_a", "parallel", "soc"]
SIDES = ("Port", "Starboard")
DEEP_CCA_PER_AH = 5.5  # of a house battery (makers' plates)
# Thermal breakers that such motors usually have; what draws more has a plain switch.
BREAKER_STEPS_A = (60.0, 80.0, 100.0, 120.0, 150.0, 200.0)


def _part(kind: str, part_id: str, name: str, place: str, **fields: object) -> Json:
    return {"kind": kind, "id": part_id, "name": name, "place": place} | fields


def parts_of(row: dict[str, str], own_feeds: list[tuple[str, str, float]]) -> list[Json]:
    """Parts of a row of the table boat_kinds.

    Args:
        row: as the table has it.
        own_feeds: id, name and draw [A] of what has a feed and a breaker of its own.
    """
    system_v = int(row["system_v"])
    count = int(row["engines"])
    parts: list[Json] = []
    for n in range(count):
        parts += _engine(row, n, count, system_v)
    parts += [
        _house_bank(row, system_v // 12),
        _part("bus_bar", "neg_bar", "Negative bar", "battery_box", polarity="neg", studs=16),
        _part("loads", "house_panel", "House panel", "helm", items=[]),
    ]
    for load, name, draw_a in own_feeds:
        parts.append(_part("loads", load, name, "bow", items=[]))
        parts.append(_switch_of(load, name, draw_a))
    return parts + _sources(row, system_v)


def _switch_of(load: str, name: str, draw_a: float) -> Json:
    own: Json = {"position": "on", "assumed": ["rating_a"]}
    rating = next((a for a in BREAKER_STEPS_A if a >= draw_a), None)
    if rating is None:
        return _part("switch", f"{load}_switch", f"{name} switch", "switch_board", **own)
    own |= {"device": "breaker_thermal", "rating_a": rating}
    return _part("breaker", f"{load}_breaker", f"{name} breaker", "switch_board", **own)


def _engine(row: dict[str, str], n: int, count: int, system_v: int) -> list[Json]:
    side, end = (f"{SIDES[n]} ", f"_{n + 1}" if n else "") if count > 1 else ("", "")
    which = ("first", "second")[n]
    power_kw = float(row["starter_kw"])
    found = [
        _part(
            "alternator",
            f"alternator{end}",
            f"{side}alternator".capitalize(),
            "engine_space",
            rated_a=float(row["alternator_a"]),
            set_v=round((chemistry("flooded_start").absorption_v - 0.1) * system_v / 12, 2),
            engine=which,
            assumed=["rated_a", "set_v"],
        ),
        _part(
            "starter",
            f"starter{end}",
            f"{side}starter".capitalize(),
            "engine_space",
            power_kw=power_kw,
            cranking_a=round(cranking_amps(power_kw, system_v)),
            engine=which,
            assumed=["power_kw", "cranking_a"],
        ),
        _part(
            "bus_bar",
            f"engine_block{end}",
            f"{side}engine block".capitalize(),
            "engine_space",
            polarity="neg",
            engine_block=True,
        ),
    ]
    if not row["engine_ah"]:
        return found
    bank = _part(
        "bank",
        f"engine_bank{end}",
        f"{side}engine bank".capitalize(),
        "battery_box",
        role="engine",
        chemistry="flooded_start",
        unit_ah=float(row["engine_ah"]),
        unit_cca_a=float(row["engine_cca_a"]),
        series=system_v // 12,
        soc=0.9,
        assumed=BANK_FIELDS,
    )
    return [bank, *found]


def _house_bank(row: dict[str, str], blocks: int) -> Json:
    return _part(
        "bank",
        "house_bank",
        "House bank" if row["engine_ah"] else "Battery",
        "battery_box",
        role="house",
        chemistry=row["house_chemistry"],
        unit_ah=float(row["house_ah"]),
        unit_cca_a=round(DEEP_CCA_PER_AH * float(row["house_ah"])),
        series=blocks,
        parallel=int(row["house_parallel"]),
        soc=0.7,
        assumed=BANK_FIELDS,
    )


def _sources(row: dict[str, str], system_v: int) -> list[Json]:
    figures = chemistry(row["house_chemistry"])
    blocks = system_v / 12
    charges = {
        "set_v": round(figures.absorption_v * blocks, 2),
        "float_v": round(figures.float_v * blocks, 2),
    }
    # Column of the table, kind and id, name, and the figures that go with it.
    usual: tuple[tuple[str, str, str, dict[str, float]], ...] = (
        ("charger_a", "charger", "Shore charger", charges),
        ("solar_w", "solar", "Solar", charges),
        ("inverter_w", "inverter", "Inverter", {"cut_out_v": 10.5 * blocks}),
    )
    rated = {"charger": "rated_a", "solar": "panel_w", "inverter": "rated_w"}
    return [
        _part(
            kind,
            kind,
            name,
            "locker",
            **{rated[kind]: float(row[column])},
            **fields,
            assumed=[rated[kind], *fields],
        )
        for column, kind, name, fields in usual
        if row[column]
    ]
