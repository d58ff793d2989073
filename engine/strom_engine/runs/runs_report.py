"""Everything that the stage Runs shows of a design, as one report."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.reference import CONFIRM, load_table
from strom_engine.runs.allowed_current import Standard
from strom_engine.runs.detour import Detour, detours
from strom_engine.runs.ladder import Ladder, Opening, ladders, openings
from strom_engine.runs.paths import Path, paths
from strom_engine.runs.run_rows import RunRow, run_rows
from strom_engine.runs.stock import Stock
from strom_engine.survey import Survey, SurveyedDesign

__all__ = ["CAUTIONS", "RunsReport", "SourceNote", "runs_report", "source_notes"]

CAUTIONS = (
    "Before a cable is touched: engine stopped, chargers off, panels covered, negative off first.",
    "Fuses come out before the work and go in last, on the dead side first.",
    "No spanner between a post and metal; rings and watches off.",
    "The local code, makers' manuals and a licensed practitioner decide; every figure of a "
    f"standard: {CONFIRM}.",
)
NOTED: tuple[str, ...] = ("ampacity_awg", "ampacity_mm2", "ampacity_engine_space", "bundling")
NOTED += ("overcurrent_devices", "opening_time", "usual_studs")


@dataclass(frozen=True)
class SourceNote:
    """A table behind the figures: what, where published, which edition, how sure."""

    title: str
    source: str
    edition: str
    confidence: str


@dataclass(frozen=True)
class RunsReport:
    """Runs row by row, whole paths, detours, ladders, what opens where, and whose figures."""

    standard: Standard
    rows: tuple[RunRow, ...]
    paths: tuple[Path, ...]
    detours: tuple[Detour, ...]
    ladders: tuple[Ladder, ...]
    openings: tuple[Opening, ...]
    copper_kg: float
    price: float | None
    sources: tuple[SourceNote, ...]
    cautions: tuple[str, ...]


def runs_report(
    design: SurveyedDesign, survey: Survey | None, stock: Stock | None = None
) -> RunsReport:
    """Every run and device of a design as surveyed, by the practice of its job.

    Args:
        design: the boat, as surveyed.
        survey: its practice (ABYC or ISO, drops allowed) and use; None for ABYC.
        stock: what could be chosen instead; None is every usual size.

    Returns:
        Runs with design current and allowed current [A], drops [V, %], lengths [m], devices [A],
        fault
        currents [A], whole paths, detours and ladders of devices.

    Source: ABYC E-11 and ISO 13297 as the reference tables tell; confirm in the edition in force.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> from strom_engine.survey import surveyed
    >>> report = runs_report(surveyed(design, survey), survey)
    >>> len(report.rows), report.rows[0].verdict
    (10, 'bad')
    """
    standard: Standard = survey.practice.standard if survey else "abyc"
    rows = run_rows(design, standard, stock)
    prices = [leg.price for row in rows for leg in row.legs]
    known = [p for p in prices if p is not None]
    return RunsReport(
        standard=standard,
        rows=rows,
        paths=paths(design),
        detours=detours(design, survey, stock),
        ladders=ladders(design),
        openings=openings(design),
        copper_kg=sum(row.copper_kg for row in rows),
        price=sum(known) if prices and len(known) == len(prices) else None,
        sources=source_notes(standard),
        cautions=CAUTIONS,
    )


def source_notes(standard: Standard) -> tuple[SourceNote, ...]:
    """The tables that figures of a standard come from."""
    other = "ampacity_mm2" if standard == "abyc" else "ampacity_awg"
    tables = [load_table(name) for name in NOTED if name != other]
    return tuple(SourceNote(t.title, t.source, t.edition, t.confidence) for t in tables)
