"""A fault: its kind, the part or cable that has it, where on it, and how much."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from strom_engine.design.fields import Frozen, Identifier, PostRef

__all__ = ["FAULT_KINDS", "MAGNITUDES", "Fault", "FaultKind", "Magnitude"]

FaultKind = Literal[
    "added_resistance",
    "bank_resistance",
    "cable_open",
    "contact_open",
    "dead_cell",
    "diode_open",
    "diode_short",
    "fuse_open",
    "lost_capacity",
    "negative_open",
    "sense_off",
    "source_dead",
    "source_fading",
    "source_limited",
    "standing_draw",
    "stuck_closed",
    "stuck_open",
    "wrong_landing",
]
FAULT_KINDS: tuple[FaultKind, ...] = get_args(FaultKind)


@dataclass(frozen=True)
class Magnitude:
    """How much of a fault there can be: its unit, its range, and what is taken unless told."""

    unit: str
    least: float
    most: float
    usual: float


# The usual ones are our own judgement: a corroded lug has some tens of milliohms, a machine with a
# slipping belt or a lost diode a third of its output, a bank past its years two thirds of its Ah.
MAGNITUDES: dict[FaultKind, Magnitude] = {
    "added_resistance": Magnitude("ohm", 1e-5, 1000.0, 0.02),
    "bank_resistance": Magnitude("ohm", 1e-5, 10.0, 0.01),
    "dead_cell": Magnitude("cells", 1, 24, 1),
    "lost_capacity": Magnitude("share", 0.01, 0.99, 0.3),
    "source_fading": Magnitude("share left when warm", 0.0, 1.0, 0.3),
    "source_limited": Magnitude("share left", 0.0, 1.0, 0.5),
    "standing_draw": Magnitude("A", 0.01, 100.0, 1.0),
}


class Fault(Frozen):
    """Something broken.

    ``part`` is a part, or the cable for ``cable_open``, ``wrong_landing`` and ``added_resistance``
    at a termination. ``at`` says where on it: an end of a cable (start, end), a contact, fuse or
    link by the post that names it (``one`` of a selector, ``b2`` of a fused bus), a way through an
    isolator (``in-out2``). ``to`` is the post a lead lies on by mistake. ``magnitude`` is in the
    unit of its kind (``MAGNITUDES``), as usual unless told.

    >>> Fault(kind="source_fading", part="alternator", magnitude=0.2).key
    'source_fading alternator =0.2'
    """

    kind: FaultKind
    part: Identifier
    at: Annotated[str, Field(max_length=40)] = ""
    to: PostRef | None = None
    magnitude: float | None = None
    words: Annotated[str, Field(max_length=200)] = ""

    @model_validator(mode="after")
    def _in_range(self) -> Fault:
        known = MAGNITUDES.get(self.kind)
        if self.magnitude is None:
            return self
        if known is None:
            raise ValueError(f"{self.kind} has no magnitude")
        if not known.least <= self.magnitude <= known.most:
            raise ValueError(f"magnitude is {known.least:g} to {known.most:g} {known.unit}")
        return self

    @property
    def amount(self) -> float:
        """Its magnitude, the usual one unless told, in the unit of its kind.

        Raises KeyError for a kind that has none.
        """
        return MAGNITUDES[self.kind].usual if self.magnitude is None else self.magnitude

    @property
    def key(self) -> str:
        """What tells it from every other one of a design."""
        much = f"={self.magnitude:g}" if self.magnitude is not None else ""
        return " ".join(filter(None, (self.kind, self.part, self.at, self.to, much)))
