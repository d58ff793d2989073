"""What can be picked while surveying and sizing: sizes, sorts and curves, from the tables."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.reference import (
    CHEMISTRIES,
    CONDUCTOR_SIZES,
    DEVICES,
    chemistry,
    load_table,
)
from strom_engine.sizing.generators import curve_points
from strom_engine.survey import BoatKind, CurvePoint, LibraryItem, boat_kinds, library

__all__ = ["Choice", "Choices", "Curve", "UnitBattery", "choices"]


@dataclass(frozen=True)
class Choice:
    """Something to pick, with the words for it."""

    id: str
    label: str


@dataclass(frozen=True)
class UnitBattery:
    """A battery that banks are made of."""

    id: str
    label: str
    chemistry: str
    unit_v: int
    unit_ah: float
    weight_kg: float


@dataclass(frozen=True)
class Curve:
    """Output of a generator against wind or boat speed."""

    id: str
    label: str
    kind: str
    points: tuple[CurvePoint, ...]


@dataclass(frozen=True)
class Choices:
    """Everything that can be picked, and where the figures come from."""

    boat_kinds: tuple[BoatKind, ...]
    loads: tuple[LibraryItem, ...]
    loads_source: str
    batteries: tuple[UnitBattery, ...]
    batteries_source: str
    curves: tuple[Curve, ...]
    skies: tuple[Choice, ...]
    windows: tuple[Choice, ...]
    chemistries: tuple[Choice, ...]
    gauges: tuple[str, ...]
    devices: tuple[Choice, ...]


@cache
def choices() -> Choices:
    """All choices, in the order of their tables."""
    batteries = load_table("unit_batteries")
    return Choices(
        boat_kinds=boat_kinds(),
        loads=library(),
        loads_source=load_table("load_examples").citation,
        batteries=tuple(
            UnitBattery(
                id=row["unit"],
                label=row["label"],
                chemistry=row["chemistry"],
                unit_v=int(row["unit_v"]),
                unit_ah=float(row["unit_ah"]),
                weight_kg=float(row["weight_kg"]),
            )
            for row in batteries.rows
        ),
        batteries_source=batteries.citation,
        curves=_curves(),
        skies=tuple(Choice(r["sky"], f"{r['label']} sky") for r in load_table("skies").rows),
        windows=tuple(
            Choice(window, label)
            for window, label in {
                r["window"]: r["label"] for r in load_table("day_windows").rows
            }.items()
        ),
        chemistries=tuple(Choice(name, chemistry(name).label) for name in CHEMISTRIES),
        gauges=tuple(CONDUCTOR_SIZES),
        devices=(*(Choice(d.type, d.label) for d in DEVICES), Choice("unknown", "Not known")),
    )


def _curves() -> tuple[Curve, ...]:
    heads = {r["curve"]: r for r in load_table("generator_curves").rows}
    return tuple(
        Curve(name, row["label"], row["kind"], curve_points(name)) for name, row in heads.items()
    )
