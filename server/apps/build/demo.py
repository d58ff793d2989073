"""The demo's refit, half done: parts received, leads pulled, the power-off window begun."""

from __future__ import annotations

from datetime import timedelta
from uuid import NAMESPACE_URL, uuid5

from django.utils import timezone

from apps.accounts.permissions import Writer
from apps.build.actions import enter
from apps.build.queries import book_of
from apps.build.schemas import EntryIn
from apps.jobs.models import Variant

__all__ = ["half_build"]

DONE_UP_TO = "off:negatives"
LATE = "Class T"  # what the supplier had to order


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
