"""Generic overcurrent devices: their ratings, voltage limits and what they can interrupt."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.reference.tables import load_table

__all__ = [
    "DEVICES",
    "DeviceType",
    "breaker_class_a",
    "device_named",
    "device_type",
    "opening_s",
    "usual_fuse",
]


@dataclass(frozen=True)
class Interrupting:
    """What a device can interrupt [A] up to a voltage [V]."""

    up_to_v: float
    amps: float


@dataclass(frozen=True)
class DeviceType:
    """A generic device: rating steps [A], voltage limit [V], interrupting rating by voltage."""

    type: str
    label: str
    sort: str
    max_v: float
    ignition_protected: str
    usual_place: str
    ratings_a: tuple[float, ...]
    interrupting: tuple[Interrupting, ...]

    def interrupts_a(self, volts: float) -> float | None:
        """What it can interrupt [A] at a voltage [V]; None above its limit."""
        return next((i.amps for i in self.interrupting if volts <= i.up_to_v), None)


@cache
def _types() -> dict[str, DeviceType]:
    ratings, interrupting = (
        load_table("overcurrent_ratings"),
        load_table("overcurrent_interrupting"),
    )
    return {
        row["type"]: DeviceType(
            type=row["type"],
            label=row["label"],
            sort=row["sort"],
            max_v=float(row["max_v"]),
            ignition_protected=row["ignition_protected"],
            usual_place=row["usual_place"],
            ratings_a=tuple(
                sorted(float(r["rating_a"]) for r in ratings.rows if r["type"] == row["type"])
            ),
            interrupting=tuple(
                Interrupting(float(r["volts"]), float(r["interrupt_a"]))
                for r in sorted(interrupting.rows, key=lambda r: float(r["volts"]))
                if r["type"] == row["type"]
            ),
        )
        for row in load_table("overcurrent_devices").rows
    }


DEVICES: tuple[DeviceType, ...] = tuple(_types().values())


def device_type(name: str) -> DeviceType | None:
    """A type by its id; None for one that nobody has looked at yet.

    Args:
        name: id of a type.
    """
    return _types().get(name)


def usual_fuse(rating_a: float, *, lithium: bool = False) -> str:
    """The generic fuse that is usual for a rating [A] on a ring terminal or in a block.

    Args:
        rating_a: of the fuse [A].
        lithium: whether it stands at a lithium bank.

    Returns:
        Id of a type.
    """
    if lithium and rating_a >= device_named("class_t").ratings_a[0]:
        return "class_t"
    kinds = ("blade_regular", "bolt_30mm", "bolt_51mm", "anl")
    fits = (k for k in kinds if rating_a in device_named(k).ratings_a)
    return next(fits, "anl")


def device_named(name: str) -> DeviceType:
    """A type by its id. Raises KeyError for one that the table does not have.

    Args:
        name: id of a type.
    """
    return _types()[name]


def breaker_class_a(cca_a: float, *, main: bool) -> float:
    """Interrupting rating [A] that a breaker needs on banks of so many cold cranking amps [A].

    Source: ABYC E-11, as table interrupting_cca tells; for 12 and 24 V.

    Args:
        cca_a: of all batteries together [A].
        main: whether it is a main breaker, not one of a branch.
    """
    column = "main_a" if main else "branch_a"
    rows = sorted(load_table("interrupting_cca").rows, key=lambda r: float(r["cca_a"]))
    return float(next((r for r in rows if cca_a <= float(r["cca_a"])), rows[-1])[column])


def opening_s(multiple: float) -> float | None:
    """Shortest time [s] in which a slow fuse opens at a multiple of its rating; None: it holds.

    Args:
        multiple: amps by rating [-].
    """
    table = load_table("opening_time")
    if multiple < min(table.column("multiple")):
        return None
    return table.lookup("multiple", "shortest_s", multiple)
