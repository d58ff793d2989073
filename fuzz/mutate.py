"""Valid JSON made odd: one to four places of a document changed, the same seed the same way."""

from __future__ import annotations

import copy
import random
from collections.abc import Iterator
from typing import Any

__all__ = ["ODD", "mutated", "mutated_text"]

Json = Any  # Any: free JSON
ODD: tuple[Json, ...] = (
    None, True, False, 0, -1, 1, 2, 0.5, 1e-5, 5e-324, 1e-300, 1e300, 1e308, -1e9, 10**30, 1e6,
    float("nan"), float("inf"), "", " ", "a", "a.00", "dn.0", "neg", "both", "=1+1", "\x00", "\x1f",
    "\u202e", "\ud800", "0", "1e5000", "x" * 3000, [], {}, [[]], [None], {"id": 1}, ["a", "a"],
    "house_bank", "house_bank.pos", "selector", "selector.one", "AWG", "2 AWG", "engine_bank.neg",
)  # fmt: skip


def mutated(document: Json, rng: random.Random) -> Json:
    """A copy with one to four places changed."""
    found = copy.deepcopy(document)
    for _ in range(rng.choice((1, 1, 1, 2, 2, 4))):
        places = list(_places(found))
        if not places:
            return rng.choice(ODD)
        holder, key = rng.choice(places)
        _change(holder, key, rng)
    return found


def _places(document: Json) -> Iterator[tuple[Json, Any]]:
    if isinstance(document, dict | list):
        keys = list(document) if isinstance(document, dict) else range(len(document))
        for key in keys:
            yield document, key
            yield from _places(document[key])


def _change(holder: Json, key: Any, rng: random.Random) -> None:
    value = holder[key]
    ways = ["odd", "odd", "odd", "drop", "twin", "swap"]
    if isinstance(value, int | float) and not isinstance(value, bool):
        ways += ["scale"] * 6
    way = rng.choice(ways)
    if way == "scale":
        holder[key] = value * rng.choice((0, -1, 1e-12, 1e-6, 0.01, 0.1, 10, 1000, 1e9))
    elif way == "drop":
        del holder[key]
    elif way == "twin" and isinstance(holder, list):
        holder.insert(rng.randrange(len(holder) + 1), copy.deepcopy(value))
    elif way == "swap":
        other = rng.choice(list(holder) if isinstance(holder, dict) else range(len(holder)))
        holder[key], holder[other] = holder[other], holder[key]
    else:
        holder[key] = copy.deepcopy(rng.choice(ODD))


def mutated_text(text: bytes, rng: random.Random) -> bytes:
    """Text with pieces cut, doubled, and replaced by what tables and files stumble over."""
    odd = (
        b"\r", b"\r\r\n", b'"', b"\x00", b"\xff\xfe", b"\xef\xbb\xbf", b";", b"\t", b",,,,",
        b"=cmd()",
        b"1e5000", b"9" * 5000, b"-", b"nan", b"\n\n", b"x" * 140_000, "é".encode("latin-1"),
    )  # fmt: skip
    for _ in range(rng.randrange(1, 5)):
        a, b = sorted(rng.randrange(len(text) + 1) for _ in range(2))
        way = rng.randrange(4)
        if way == 0:
            text = text[:a] + rng.choice(odd) + text[a:]
        elif way == 1:
            text = text[:a] + text[b:]
        elif way == 2:
            text = text[:b] + text[a:b][:2000] + text[b:]
        else:
            text = text[:a] + rng.choice(odd) + text[a + 1 :]
    return text
