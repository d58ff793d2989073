"""The demo's refit, half done: parts received, leads pulled, the power-off window begun."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path
from uuid import NAMESPACE_URL, uuid5

from django.utils import timezone
from strom_engine.interchange import read_parts

from apps.accounts.permissions import Writer
from apps.build.actions import enter, keep_prices
from apps.build.queries import book_of
from apps.build.schemas import EntryIn, PriceIn
from apps.jobs.actions import change_stock
from apps.jobs.models import Variant

__all__ = ["half_build", "keep_demo_prices"]

DONE_UP_TO = "off:negatives"
HOUR_EUR = 78.0
PRICES = Path(__file__).parent / "demo_data/prices.csv"
LATE = "Class T"  # what the supplier had to order


def keep_demo_prices(variant: Variant) -> None:
    """The price list of the demo workshop, made up, and its hour."""
    read = read_parts(PRICES.read_bytes(), book_of(variant).parts)
    rows = [
        PriceIn.model_validate({name: said for name, said in vars(row).items() if said is not None})
        for row in read.rows
    ]
    workshop = variant.job.workshop
    keep_prices(workshop, Writer(), rows)
    change_stock(workshop, Writer(), lambda _: {"currency": "EUR", "hour_price": HOUR_EUR})


def half_build(variant: Variant) -> None:
    """Enter what a workshop would have entered by the second morning."""
    book, now = book_of(variant), timezone.now()
    steps = [s.key for s in book.order.steps]
    done = steps[: steps.index(DONE_UP_TO) + 1]
    made: list[dict[str, object]] = [
        {"kind": "received", "target": line.key, "count": line.needed}
        for line in book.parts.lines
        if not line.what.startswith(LATE)
    ]
    made += [
        {"kind": "length", "target": piece.key, "length_m": round(1.04 * piece.length_m, 2)}
        for piece in book.cuts
        if piece.provisional
    ][:12]
    made += [{"kind": "tick", "target": key, "done": True} for key in done]
    made.append(
        {
            "kind": "note",
            "target": DONE_UP_TO,
            "text": "Bilge pump on the spare battery; owner sleeps ashore tonight.",
        }
    )
    enter(
        variant,
        Writer(),
        [
            EntryIn.model_validate(
                {
                    "id": uuid5(NAMESPACE_URL, f"{variant.pk} {n}"),
                    "at": now - timedelta(minutes=6 * (len(made) - n)),
                    "revision": variant.head,
                    **one,
                }
            )
            for n, one in enumerate(made)
        ],
    )
