"""All steps as drafts, in the usual safe order, grouped by place to save walking."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from strom_engine.build.actions import Site
from strom_engine.build.before import board, dry_fit, long_leads, workshop
from strom_engine.build.cuts import Piece
from strom_engine.build.drafting import Draft
from strom_engine.build.power_on import power_on
from strom_engine.build.window import fit, power_off, take_out

__all__ = ["drafts"]

PARTS: tuple[Callable[[Site, Sequence[Piece]], Iterator[Draft]], ...] = (
    dry_fit,
    workshop,
    board,
    long_leads,
    power_off,
    take_out,
    fit,
    power_on,
)


def drafts(site: Site, cuts: Sequence[Piece]) -> list[Draft]:
    """All steps in the usual order: what can be done with the power on comes first.

    Args:
        site: both designs and the work.
        cuts: pieces of new cable.
    """
    return [draft for part in PARTS for draft in part(site, cuts) if draft.doing]
