"""The proving record as PDF: every reading with its range, deviations, what was not tested."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape

from strom_engine.reference import CONFIRM

from apps.jobs.models import Variant
from apps.prints.makers import Ask
from apps.prints.paper import cautions, pdf, table
from apps.prove.queries import prove_of
from apps.prove.schemas import Answer, ProveEntryOut, ProveOut, RecordIn

__all__ = ["made", "record_body"]

WORDS: dict[Answer, str] = {
    "within": "✓ within",
    "yes": "✓ yes",
    "doubtful": "◆ doubtful",
    "outside": "▲ outside",
    "impossible": "? impossible",
    "no": "▲ no",
    "waived": "waived",
    "open": "☐ not tested",
}
GOOD: tuple[Answer, ...] = ("within", "yes")
CAUTIONS = (
    "Readings of one day, on the boat as she lay: local code, makers' manuals and a licensed "
    "practitioner decide.",
)


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the record that was asked for."""
    told = RecordIn.model_validate(ask)
    foot = f"{variant.job.name}, {variant.name}, revision {variant.head}"
    return pdf(record_body(variant, told), told.paper, foot)


def record_body(variant: Variant, told: RecordIn) -> str:
    """The proving record as HTML, for a document of its own or as a part of one."""
    out = prove_of(variant)
    return _cover(variant, out, told) + _deviations(out) + _open(out) + _all(out)


def _cover(variant: Variant, out: ProveOut, told: RecordIn) -> str:
    counted = table(
        ("Answer", "Tests"), [(WORDS[a], out.counts.get(a, 0)) for a in WORDS if a in out.counts]
    )
    meters = "; ".join(
        f"{m.name}: {m.percent:g} % + {m.digits} digits of {m.resolution:g}" for m in out.meters
    )
    names = table(
        ("", "Name", "Date, signature"),
        [("Proved by", told.proved_by, ""), ("Received by", told.received_by, "")],
    )
    air = out.today.temperature_c
    return (
        f"<section><h1>{escape(variant.job.name)}: {escape(variant.name)}</h1>"
        f"<p>Proving record, revision {variant.head}. "
        f"{'' if air is None else f'Air {air:g} °C. '}Banks rested {out.today.rested_h:g} h. "
        f"Meters: {escape(meters or 'as usual for hand meters')}. Figures of standards: "
        f"{escape(CONFIRM)}.</p>{cautions(CAUTIONS)}{counted}<h2>Names</h2>{names}</section>"
    )


def _deviations(out: ProveOut) -> str:
    rows = [
        (test.title, WORDS[state.answer], _last(state.entries), "; ".join(_said(state.entries)))
        for test in out.tests
        if (state := out.states[test.key]).answer not in (*GOOD, "open")
    ]
    empty = "<p>None.</p>" if not rows else ""
    shown = table(("Test", "Answer", "Read", "Said of it"), rows) if rows else ""
    return f"<section><h2>Deviations and waivers</h2>{empty}{shown}</section>"


def _open(out: ProveOut) -> str:
    items = "".join(
        f"<li>☐ {escape(t.title)}</li>" for t in out.tests if out.states[t.key].answer == "open"
    )
    return f"<section><h2>Not tested</h2><ul>{items or '<li>Nothing.</li>'}</ul></section>"


def _all(out: ProveOut) -> str:
    rows = []
    for test in out.tests:
        state, wanted = out.states[test.key], test.wanted
        if state.answer == "open":
            continue
        span = f"{wanted.low:.2f} to {wanted.high:.2f} {test.unit}" if wanted else test.expects
        last = next((e for e in state.entries if e.kind != "note"), None)
        who = f"{last.at:%Y-%m-%d %H:%M} {last.author or ''}" if last else ""
        meter = last.reading.instrument if last and last.reading else ""
        rows.append((test.title, span, _last(state.entries), WORDS[state.answer], meter, who))
    head = ("Test", "Wanted", "Read", "Answer", "Meter", "When, who")
    return f"<section><h2>All readings</h2>{table(head, rows)}</section>"


def _last(entries: Iterable[ProveEntryOut]) -> str:
    reading = next((e.reading for e in entries if e.reading), None)
    return f"{reading.value:g}" if reading else ""


def _said(entries: Iterable[ProveEntryOut]) -> Iterable[str]:
    for entry in entries:
        if entry.text:
            yield entry.text
        elif entry.verdict:
            yield entry.verdict.why
