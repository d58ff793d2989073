"""Rows of records as they are kept: blocks of compressed columns, with the extremes of each."""

from __future__ import annotations

import json
import zlib
from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np
from strom_engine.records import QUANTITIES, Trace, thinned

from apps.logbook.models import Record, RecordBlock
from apps.logbook.schemas import ChartColumn

__all__ = ["charted", "keep_trace", "trace_of", "without_known"]

ROWS = 4096
BUCKETS = 32
RAW_ROWS = 60_000  # up to so many rows of a window are drawn as they are
MOST_POINTS = 1600
HEAD = 4  # bytes that tell how long the head of a block is


def keep_trace(record: Record, trace: Trace) -> None:
    """Keep the rows of a record."""
    RecordBlock.objects.bulk_create(
        [_block(record, trace.part(n, n + ROWS)) for n in range(0, len(trace), ROWS)],
        batch_size=50,
    )


def trace_of(records: Sequence[Record], start_s: float = 0.0, end_s: float = np.inf) -> Trace:
    """Rows of records from one moment up to another [s], in order."""
    blocks = RecordBlock.objects.filter(record__in=records, end_s__gte=start_s)
    if np.isfinite(end_s):
        blocks = blocks.filter(start_s__lt=end_s)
    parts = [_read(bytes(data)) for data in blocks.values_list("data", flat=True)]
    return _joined(parts).between(start_s, end_s)


def without_known(record: Record, trace: Trace) -> tuple[Trace, int]:
    """Rows at moments that no other record of the bank has, and how many were known."""
    if not len(trace):
        return trace, 0
    others = list(Record.objects.filter(job=record.job, bank=record.bank).exclude(pk=record.pk))
    known = trace_of(others, float(trace.at_s[0]), float(trace.at_s[-1]) + 1)
    new = ~np.isin(trace.at_s, known.at_s)
    columns = {name: column[new] for name, column in trace.columns.items()}
    return Trace(trace.at_s[new], columns), int((~new).sum())


def charted(records: Sequence[Record], start_s: float, end_s: float) -> dict[str, ChartColumn]:
    """Every quantity of a window in few points: times [s] and values, a None in each gap.

    Of wide windows the least and the most of some hundred rows stand for them.
    """
    blocks = RecordBlock.objects.filter(record__in=records, end_s__gte=start_s, start_s__lt=end_s)
    if sum(blocks.values_list("rows", flat=True)) <= RAW_ROWS:
        trace = trace_of(records, start_s, end_s)
    else:
        parts = [_read(bytes(data)) for data in blocks.values_list("summary", flat=True)]
        trace = _joined(parts)
    gap_s = trace.gap_s
    found = {}
    for name in QUANTITIES:
        if trace.has(name):
            at_s, values = thinned(trace.at_s, trace.columns[name], MOST_POINTS)
            found[name] = _with_gaps(at_s, values, max(gap_s, 3 * (end_s - start_s) / MOST_POINTS))
    return found


def _with_gaps(at_s: np.ndarray, values: np.ndarray, gap_s: float) -> ChartColumn:
    times: list[float] = []
    column: list[float | None] = []
    for at, value in zip(at_s.tolist(), values.tolist(), strict=True):
        if times and at - times[-1] > gap_s:
            times.append((times[-1] + at) / 2)
            column.append(None)
        times.append(at)
        column.append(round(value, 4))
    return ChartColumn.model_construct(at_s=times, values=column)


def _block(record: Record, trace: Trace) -> RecordBlock:
    return RecordBlock(
        record=record,
        start_s=float(trace.at_s[0]),
        end_s=float(trace.at_s[-1]),
        rows=len(trace),
        data=_packed(trace),
        summary=_packed(_extremes(trace)),
    )


def _packed(trace: Trace) -> bytes:
    names = [name for name in QUANTITIES if trace.has(name)]
    head = json.dumps({"rows": len(trace), "columns": names}).encode()
    body = trace.at_s.astype("<f8").tobytes()
    body += b"".join(trace.columns[name].astype("<f4").tobytes() for name in names)
    return len(head).to_bytes(HEAD, "little") + head + zlib.compress(body, 6)


def _read(data: bytes) -> Trace:
    end = HEAD + int.from_bytes(data[:HEAD], "little")
    head = json.loads(data[HEAD:end])
    body, rows = zlib.decompress(data[end:]), head["rows"]
    at_s = np.frombuffer(body, "<f8", rows)
    columns = {
        name: np.frombuffer(body, "<f4", rows, 8 * rows + 4 * rows * n).astype(float).round(5)
        for n, name in enumerate(head["columns"])
    }
    return Trace(at_s, columns)


def _extremes(trace: Trace) -> Trace:
    """The least and the most of every stretch of a block, two rows for each."""
    edges = np.unique(np.linspace(0, len(trace), BUCKETS + 1).astype(int))
    rows = list(_pairs(trace, edges.tolist()))
    at_s = np.array([at for at, _ in rows])
    columns = {name: np.array([values[name] for _, values in rows]) for name in trace.columns}
    return Trace(at_s, columns)


def _pairs(trace: Trace, edges: list[int]) -> Iterator[tuple[float, dict[str, float]]]:
    for start, end in pairwise(edges):
        part = trace.part(start, end)
        low, high = {}, {}
        for name, column in part.columns.items():
            known = column[np.isfinite(column)]
            low[name] = float(known.min()) if len(known) else np.nan
            high[name] = float(known.max()) if len(known) else np.nan
        yield float(part.at_s[0]), low
        yield float(part.at_s[len(part) // 2]), high


def _joined(parts: Sequence[Trace]) -> Trace:
    """Parts as one trace in order; a column that a part lacks has no numbers there."""
    if not parts:
        return Trace(np.zeros(0), {})
    names = [name for name in QUANTITIES if any(name in p.columns for p in parts)]
    at_s = np.concatenate([p.at_s for p in parts])
    order = np.argsort(at_s, kind="stable")
    columns = {name: np.concatenate([p.column(name) for p in parts])[order] for name in names}
    return Trace(at_s[order], columns)
