"""The handover pack: what the owner keeps aboard, and what the next electrician asks for."""

from __future__ import annotations

from base64 import b64encode
from html import escape

from django.utils import timezone
from strom_engine.drawing import lay_out
from strom_engine.handover import device_settings, said_sheet
from strom_engine.reference import CONFIRM

from apps.handover.drawing_svg import drawing_svg
from apps.handover.queries import sheet_of
from apps.handover.schemas import HandoverPackIn
from apps.handover.sheet_pdf import CSS as SHEET_CSS
from apps.handover.sheet_pdf import sheet_body
from apps.jobs.documents import surveyed_design
from apps.jobs.models import Variant
from apps.jobs.queries import findings_of
from apps.logbook.queries import log_of
from apps.logbook.schemas import LogOut
from apps.prints.makers import Ask
from apps.prints.paper import MARGIN_MM, PAPER_MM, cautions, pdf, table
from apps.prove.queries import prove_of
from apps.prove.record import record_body
from apps.prove.schemas import RecordIn
from apps.runs.queries import runs_of

__all__ = ["made"]

PACK_CSS = """
.part { break-before: page; } .part:first-of-type { break-before: auto; }
.wide { page: wide; } @page wide { size: PAPER landscape; }
figure { margin: 0 0 4mm; break-inside: avoid; } figure img { max-width: 100%; max-height: 105mm; }
"""
CAUTIONS = (
    "Batteries burn, explode and are heavy. Goggles; no rings; no gas in the space.",
    "Local code, makers' manuals and a licensed practitioner decide before this pack does.",
    "Mains voltage kills: the AC side is not part of this pack.",
)
HEAD_MM = 20.0  # what stands above a drawing on its page


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the pack that was asked for."""
    told = HandoverPackIn.model_validate(ask)
    foot = f"{variant.job.name}, {variant.name}, revision {variant.head}"
    log = log_of(variant)
    sheet = said_sheet(sheet_of(variant, told.school), told.language)
    proved = RecordIn(paper=told.paper, proved_by=told.handed_by, received_by=told.received_by)
    parts = (
        _cover(variant, told),
        f"<section class=part>{sheet_body(variant, sheet)}</section>",
        _drawings(variant, told),
        _cables(variant),
        _settings(variant, log),
        f"<section class=part>{record_body(variant, proved)}</section>",
        _waivers(variant),
        _service(log),
        _open_points(variant, log),
        _photographs(variant),
    )
    css = SHEET_CSS + PACK_CSS.replace("PAPER", told.paper)
    return pdf("".join(parts), told.paper, foot, css)


def _cover(variant: Variant, told: HandoverPackIn) -> str:
    names = table(
        ("", "Name", "Date, signature"),
        [("Handed over by", told.handed_by, ""), ("Received by", told.received_by, "")],
    )
    day = timezone.localdate().isoformat()
    return (
        f"<section class=part><h1>{escape(variant.job.name)}: {escape(variant.name)}</h1>"
        f"<p>Handover pack of {day}, revision {variant.head}: owner's sheet, drawing, cables, "
        "settings, proving record, waivers, service, open points, photographs. Figures of "
        f"standards: {escape(CONFIRM)}.</p>{cautions(CAUTIONS)}{names}</section>"
    )


def _drawings(variant: Variant, told: HandoverPackIn) -> str:
    design = surveyed_design(variant)
    wide, high = PAPER_MM[told.paper]
    room = high - 2 * MARGIN_MM[1], wide - 2 * MARGIN_MM[0] - HEAD_MM
    positive, negative = (drawing_svg(design, lay_out(design, side), *room)
                          for side in ("pos", "neg"))  # fmt: skip
    return (
        f'<section class="part wide"><h1>As built: positive side</h1>{positive}</section>'
        f'<section class="part wide"><h1>As built: negative side</h1>{negative}</section>'
    )


def _cables(variant: Variant) -> str:
    rows = [
        (row.name, leg.gauge, leg.length_m, round(row.current_a, 1), round(row.allowed_a),
         "" if row.device_a is None else f"{row.device_a:g} A")
        for row in runs_of(variant).report.rows
        for leg in row.legs
    ]  # fmt: skip
    head = ("Run", "Size", "Length m", "Carries A", "May carry A", "Protected by")
    return f"<section class=part><h1>Cables</h1>{table(head, rows)}</section>"


def _settings(variant: Variant, log: LogOut) -> str:
    planned = [
        (s.device, s.name, f"{s.value:g} {s.unit}")
        for s in device_settings(surveyed_design(variant))
    ]
    rows = [
        (e.at.date().isoformat(), e.target_name, s.name, s.old, s.new,
         f"{s.why}{' (open: stands in for a cure)' if e.open else ''}", e.author or "")
        for e in log.entries
        if (s := e.setting) is not None
    ]  # fmt: skip
    kept = table(("Date", "Device", "Setting", "Was", "Is", "Why", "By"), rows) if rows else ""
    plan = table(("Device", "Setting", "Value"), planned) if planned else "<p>None.</p>"
    return (
        f"<section class=part><h1>Settings</h1><h2>As designed</h2>{plan}"
        f"<h2>As changed</h2>{kept or '<p>None.</p>'}</section>"
    )


def _waivers(variant: Variant) -> str:
    rows = [
        (w.rule, w.title, w.reason, w.author or "", w.created.date().isoformat(),
         "lapsed: it is graver now" if w.lapsed else "")
        for w in findings_of(variant).waivers
    ]  # fmt: skip
    shown = table(("Rule", "Finding", "Reason", "By", "Date", ""), rows) if rows else "<p>None.</p>"
    return f"<section class=part><h1>Waivers</h1>{shown}</section>"


def _service(log: LogOut) -> str:
    rows = [
        (due.task.title, due.task.how, due.on.isoformat() if due.on else "",
         "" if due.at_engine_h is None else due.at_engine_h, due.standing, due.task.caution)
        for due in log.due
    ]  # fmt: skip
    head = ("Task", "How", "Due", "Engine h", "Stands", "Mind")
    return f"<section class=part><h1>Service plan</h1>{table(head, rows)}</section>"


def _open_points(variant: Variant, log: LogOut) -> str:
    found = findings_of(variant)
    waived = {w.finding for w in found.waivers if not w.lapsed}
    states, tests = (out := prove_of(variant)).states, out.tests
    groups = (
        ("Findings", [f"{f.rule} {f.title}: {f.missing or f.repair or f.severity}"
                      for f in found.findings if f.key not in waived]),
        ("Not tested", [t.title for t in tests if states[t.key].answer == "open"]),
        ("Settings that stand in for a cure",
         [f"{e.target_name}: {e.setting.name}" for e in log.open_settings if e.setting]),
        ("Faults", [e.fault.complaint for e in log.open_faults if e.fault]),
    )  # fmt: skip
    shown = "".join(
        f"<h2>{title}</h2><ul>{''.join(f'<li>☐ {escape(x)}</li>' for x in points)}</ul>"
        for title, points in groups
        if points
    )
    return f"<section class=part><h1>Open points</h1>{shown or '<p>None.</p>'}</section>"


def _photographs(variant: Variant) -> str:
    figures = "".join(
        f'<figure><img src="data:image/jpeg;base64,{b64encode(bytes(p.image)).decode()}">'
        f"<figcaption>{escape(p.caption)} {p.created:%Y-%m-%d} {escape(p.by)}</figcaption></figure>"
        for p in variant.job.photos.all()
    )
    return f"<section class=part><h1>Photographs</h1>{figures}</section>" if figures else ""
