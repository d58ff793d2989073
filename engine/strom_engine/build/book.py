"""All that the stage Build shows, in one."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from strom_engine.build.board import Board, boards
from strom_engine.build.costs import Costs, costs
from strom_engine.build.cuts import Piece, pieces
from strom_engine.build.cutting_plan import CuttingPlan, cutting_plan
from strom_engine.build.difference import Work, work
from strom_engine.build.labels import Label, labels
from strom_engine.build.parts_list import PartsList, parts_list
from strom_engine.build.steps import Order, order_of_work, reordered
from strom_engine.design import Design
from strom_engine.runs.stock import Stock

__all__ = ["BuildBook", "build_book"]


@dataclass(frozen=True)
class BuildBook:
    """Work, parts, cuts, labels, steps, boards, and what all of it costs."""

    work: Work
    parts: PartsList
    cuts: tuple[Piece, ...]
    plan: CuttingPlan
    labels: tuple[Label, ...]
    order: Order
    boards: tuple[Board, ...]
    costs: Costs


def build_book(
    found: Design | None,
    chosen: Design,
    stock: Stock | None = None,
    measured: Mapping[str, float] | None = None,
    keys: Sequence[str] = (),
    cut: Collection[str] = (),
) -> BuildBook:
    """All that is needed to make a chosen design out of the boat as found.

    Args:
        found: the boat as it is, as surveyed; None for a new boat.
        chosen: what it shall be, as surveyed.
        stock: prices, reels and what is kept.
        measured: lengths [m] that were measured aboard, by the key of a cable.
        keys: steps in an order of one's own.
        cut: keys of pieces that are cut already: the plan is for the others.

    Returns:
        Everything with keys that stay while the design goes on changing.

    >>> from strom_engine.survey import new_boat, surveyed
    >>> survey, design = new_boat("day_boat", "on_off_each")
    >>> book = build_book(None, surveyed(design, survey))
    >>> len(book.cuts) == len(design.cables), book.order.hazards
    (True, ())
    """
    job = work(found, chosen)
    cuts = pieces(chosen, job, measured)
    if keys:
        order = reordered(found, chosen, job, cuts, keys)
    else:
        order = order_of_work(found, chosen, job, cuts)
    parts = parts_list(chosen, job, cuts, stock)
    return BuildBook(
        work=job,
        parts=parts,
        cuts=cuts,
        plan=cutting_plan([p for p in cuts if p.key not in cut], stock.reels if stock else ()),
        labels=labels(chosen),
        order=order,
        boards=boards(chosen),
        costs=costs(parts, order, stock),
    )
