"""The cut list: every piece of cable to be made, with its ends, and what it rests on."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from strom_engine.build.difference import Work
from strom_engine.design import Cable, Design
from strom_engine.design.choices import CableEnd
from strom_engine.design.fields import PostRef
from strom_engine.reference import (
    outside_mm,
    shrink_bore_mm,
    strip_mm,
    stud_torque,
    usual_stud,
)
from strom_engine.runs.guarding import AT_SOURCE_M, covers, guarding
from strom_engine.runs.legs import legs

__all__ = [
    "HEAVY_MM2",
    "SHRINK_MM",
    "THIN_MM2",
    "CutEnd",
    "Piece",
    "ReelSort",
    "cable_labels",
    "cut_length_m",
    "end_of",
    "pieces",
]

# Slack of a cable that is crimped before it is led: own judgement.
SLACK_SHARE, LEAST_SLACK_M = 0.03, 0.05
ROUND_M = 0.01
# What a piece is cut from: size, colour, insulation [degC].
ReelSort = tuple[str, str, int]
SHRINK_MM = 50.0  # of shrink at each end
HEAVY_MM2 = 13.0  # 6 AWG and more: a hydraulic or long-armed crimper; own judgement
THIN_MM2 = 3.5  # 12 AWG and thinner: control, sense and small circuits


@dataclass(frozen=True)
class CutEnd:
    """An end of a piece: where it lands, stud and hole of its lug, torque, strip, label."""

    post: str
    part: str
    place: str | None
    stud: str
    assumed: bool
    hole_mm: float | None
    torque: str
    strip_mm: float
    label: str


@dataclass(frozen=True)
class Piece:
    """A piece of cable to be made.

    ``cut_m`` is run and tails, and slack. ``estimated`` in the design, it is made once the gear and
    batteries stand, and is ``provisional`` until somebody has measured it there. ``unprotected_m``
    is what no device protects, and ``unprotected_limit_m`` how long that may be; None where a
    device protects all of it.
    """

    key: str
    cable: str
    name: str
    gauge: str
    area_mm2: float
    colour: str
    insulation_c: int
    purpose: str
    sheathed: bool
    length_m: float
    slack_m: float
    cut_m: float
    estimated: bool
    measured: bool
    provisional: bool
    shrink_bore_mm: float
    shrink_mm: float
    outside_mm: float
    ends: tuple[CutEnd, ...]
    unprotected_m: float | None
    unprotected_limit_m: float | None
    why: str

    @property
    def reel(self) -> ReelSort:
        """What it is cut from: size, colour, insulation."""
        return (self.gauge, self.colour, self.insulation_c)


def cut_length_m(length_m: float) -> float:
    """Length that is cut for a run with its tails [m]: 3 % and at least 50 mm more, rounded up.

    Args:
        length_m: run and tails [m].

    >>> cut_length_m(1.0), cut_length_m(6.0)
    (1.05, 6.18)
    """
    slack = max(LEAST_SLACK_M, SLACK_SHARE * length_m)
    return round(math.ceil(round((length_m + slack) / ROUND_M, 6)) * ROUND_M, 3)


def pieces(
    chosen: Design, job: Work, measured: Mapping[str, float] | None = None
) -> tuple[Piece, ...]:
    """Every new cable as a piece to be cut, the longest first.

    Args:
        chosen: the design to be built, as surveyed.
        job: the work.
        measured: lengths [m] that were measured aboard, by the key of the cable.

    Returns:
        Lengths [m], strips and shrink [mm].
    """
    known = measured or {}
    labels = cable_labels(chosen)
    made = [
        _piece(chosen, one.key, chosen.cables_by_id[one.cable], known.get(one.key), labels)
        for one in job.cables_by("new")
        if one.cable is not None
    ]
    return tuple(sorted(made, key=lambda p: (-p.cut_m, p.key)))


def cable_labels(design: Design) -> dict[str, str]:
    """What is written at both ends of a cable: its own label, else its run's number and side."""
    found = {}
    for number, leg in enumerate(legs(design), 1):
        for cable, sign in ((leg.out, "+"), (leg.back, "−")):
            if cable is not None:
                found[cable.id] = cable.label or f"{number:03d}{sign}"
    return found


def _piece(
    design: Design, key: str, cable: Cable, measured_m: float | None, labels: Mapping[str, str]
) -> Piece:
    length_m = cable.length_m if measured_m is None else measured_m
    cut_m = cut_length_m(length_m)
    bare, limit = _unprotected(design, cable)
    polarity = design.post_polarity[cable.start]
    return Piece(
        key=key,
        cable=cable.id,
        name=design.cable_name(cable),
        gauge=cable.gauge,
        area_mm2=cable.area_mm2,
        colour=cable.colour or ("black" if polarity == "neg" else "red"),
        insulation_c=cable.insulation_c,
        purpose=cable.purpose,
        sheathed=cable.sheathed,
        length_m=length_m,
        slack_m=round(cut_m - length_m, 3),
        cut_m=cut_m,
        estimated=cable.estimated,
        measured=measured_m is not None or not cable.estimated,
        provisional=measured_m is None and cable.estimated,
        shrink_bore_mm=shrink_bore_mm(cable.area_mm2),
        shrink_mm=SHRINK_MM,
        outside_mm=outside_mm(cable.gauge, cable.area_mm2),
        ends=(
            _end(design, cable, cable.start, cable.start_lug, labels),
            _end(design, cable, cable.end, cable.end_lug, labels),
        ),
        unprotected_m=bare,
        unprotected_limit_m=limit,
        why=f"{length_m:g} m "
        + ("measured" if measured_m is not None or not cable.estimated else "estimated")
        + f" + {cut_m - length_m:.2f} m of slack = {cut_m:.2f} m.",
    )


def end_of(design: Design, cable: Cable, side: CableEnd) -> CutEnd:
    """One end of a cable of a design: its stud, hole, torque, strip and label."""
    ref, lug = (cable.start, cable.start_lug) if side == "start" else (cable.end, cable.end_lug)
    return _end(design, cable, ref, lug, cable_labels(design))


def _end(
    design: Design, cable: Cable, ref: PostRef, lug: str | None, labels: Mapping[str, str]
) -> CutEnd:
    part = design.by_id[ref.part]
    stud = lug or part.stud or usual_stud(part.kind, ref.post)
    torque = stud_torque(stud, battery=part.kind == "bank")
    told = ""
    if torque and torque.least_nm is not None:
        told = f"{torque.least_nm:g} to {torque.most_nm:g} N m"
    label = labels.get(cable.id, "")
    return CutEnd(
        post=design.post_name(ref),
        part=part.id,
        place=part.place,
        stud=stud,
        assumed=part.stud is None and lug is None,
        hole_mm=torque.ring_hole_mm if torque else None,
        torque=told,
        strip_mm=strip_mm(cable.area_mm2),
        label=f"{label} {design.post_name(ref)}".strip(),
    )


def _unprotected(design: Design, cable: Cable) -> tuple[float | None, float | None]:
    """What of a cable no device protects [m], and how long that may be [m]."""
    cover = covers(design)[cable.id]
    if cover is None or cover.state == "exempt":
        return None, None
    guards = guarding(design).guards.get(cable.id, ())
    if not any(g.device is None and not g.exempt for g in guards):
        return None, None
    limit = cover.root.limit_m if cover.root else AT_SOURCE_M
    return cable.length_m, limit
