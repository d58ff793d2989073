"""Where things stand from left to right: an order in each row, then places without overlap."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

__all__ = ["GAP", "Item", "Link", "Placing", "place_items"]

GAP = 18.0
LINE_GAP = 4.0
ORDER_SWEEPS = 8
PLACE_SWEEPS = 24
FIRM = 1e6

Link = tuple[tuple[str, float], tuple[str, float]]


@dataclass(frozen=True)
class Item:
    """A box or a line passing through a row; ``affinity`` is the bay it leans to."""

    id: str
    row: int
    width: float
    affinity: float
    fixed: bool = False

    @property
    def is_line(self) -> bool:
        """Whether this is only the passage of a line."""
        return "@" in self.id


@dataclass(frozen=True)
class Placing:
    """Left edge of every item, and the width of it all."""

    x: Mapping[str, float]
    width: float


@dataclass(frozen=True)
class _Pull:
    """Another item that one is tied to, and where the tie is on each."""

    other: str
    own_at: float
    other_at: float


def place_items(
    items: Sequence[Item], links: Sequence[Link], banks: Sequence[str], bay_min: float
) -> Placing:
    """Order and place items in their rows; banks stand in columns of equal width."""
    by_id = {item.id: item for item in items}
    pulls: dict[str, list[_Pull]] = {i: [] for i in by_id}
    for (a, a_at), (b, b_at) in links:
        pulls[a].append(_Pull(b, a_at, b_at))
        pulls[b].append(_Pull(a, b_at, a_at))
    rows = _ordered(items, by_id, pulls, banks)
    needed = max((_offsets(row)[1] for row in rows), default=0.0)
    width = max(needed, bay_min * max(1, len(banks)))
    columns = {
        bank: float(round((i + 0.5) * width / len(banks) - by_id[bank].width / 2))
        for i, bank in enumerate(banks)
    }
    x = {item.id: off for row in rows for item, off in zip(row, _offsets(row)[0], strict=True)}
    x |= columns
    above = {i: [t for t in ties if by_id[t.other].row < by_id[i].row] for i, ties in pulls.items()}
    for sweep in range(PLACE_SWEEPS):
        for row in rows if sweep % 2 == 0 else rows[::-1]:
            _settle(row, pulls, x, columns, width)
    for row in rows:  # a last time from the top, each under what it hangs from
        _settle(row, {i: above[i] or pulls[i] for i in pulls}, x, columns, width)
    return Placing(x, width)


def _ordered(
    items: Sequence[Item],
    by_id: Mapping[str, Item],
    pulls: Mapping[str, list[_Pull]],
    banks: Sequence[str],
) -> list[list[Item]]:
    """Rows in an order with few crossings: barycentres of the neighbours, swept up and down."""
    count = max((item.row for item in items), default=0) + 1
    rows = [
        sorted((i for i in items if i.row == row), key=lambda i: (i.affinity, i.id))
        for row in range(count)
    ]
    for sweep in range(ORDER_SWEEPS):
        for n in range(count) if sweep % 2 == 0 else range(count - 1, -1, -1):
            at = {i.id: k / max(1, len(row) - 1) for row in rows for k, i in enumerate(row)}
            rows[n] = _by_barycentre(rows[n], pulls, at, by_id, banks)
    return rows


def _by_barycentre(
    row: list[Item],
    pulls: Mapping[str, list[_Pull]],
    at: Mapping[str, float],
    by_id: Mapping[str, Item],
    banks: Sequence[str],
) -> list[Item]:
    spread = max(1, len(banks) - 1)

    def key(item: Item) -> tuple[float, str]:
        if item.id in banks:
            return banks.index(item.id) / spread, item.id
        others = [p.other for p in pulls[item.id] if by_id[p.other].row != item.row]
        mean = sum(at[o] for o in others) / len(others) if others else item.affinity / spread
        return 0.5 * mean + 0.5 * item.affinity / spread, item.id

    return sorted(row, key=key)


def _offsets(row: Sequence[Item]) -> tuple[list[float], float]:
    """Left edges when a row is packed tightly, and its width."""
    x, offsets = 0.0, []
    for i, item in enumerate(row):
        if i:
            x += LINE_GAP if item.is_line and row[i - 1].is_line else GAP
        offsets.append(x)
        x += item.width
    return offsets, x


def _settle(
    row: list[Item],
    pulls: Mapping[str, list[_Pull]],
    x: dict[str, float],
    columns: Mapping[str, float],
    width: float,
) -> None:
    """Move a row to where its ties pull it, keeping the order and the gaps.

    Isotonic regression by pooling adjacent violators, on places less the packed offsets.
    """
    offsets, packed = _offsets(row)
    pools: list[list[float]] = []  # mean, weight, members
    for item, offset in zip(row, offsets, strict=True):
        ties = pulls[item.id]
        if item.id in columns:
            wanted, weight = columns[item.id], FIRM
        elif ties:
            wanted = sum(x[t.other] + t.other_at - t.own_at for t in ties) / len(ties)
            weight = 4.0 if item.is_line else 1.0
        else:
            wanted, weight = x[item.id], 0.1
        pools.append([wanted - offset, weight, 1])
        while len(pools) > 1 and pools[-2][0] > pools[-1][0]:
            mean, heavy, members = pools.pop()
            last = pools[-1]
            total = last[1] + heavy
            last[0] = (last[0] * last[1] + mean * heavy) / total
            last[1] = total
            last[2] += members
    places = [pool[0] for pool in pools for _ in range(int(pool[2]))]
    for item, offset, place in zip(row, offsets, places, strict=True):
        x[item.id] = float(round(min(max(place, 0.0), width - packed) + offset))
