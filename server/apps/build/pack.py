"""The build pack as PDF: cover, difference, parts, cuts, labels, steps with stacks."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

import segno
from strom_engine.build import Label
from strom_engine.reference import CONFIRM

from apps.build.queries import build_of
from apps.build.schemas import BuildOut, PackIn
from apps.jobs.models import Variant
from apps.prints.makers import Ask
from apps.prints.paper import MARGIN_MM, PAPER_MM, cautions, pdf, table

__all__ = ["made", "pdf_of"]

DASHED = ' stroke-dasharray="4 3"'

CAUTIONS = (
    "Batteries burn, explode and are heavy. Goggles; no rings; no gas in the space.",
    "Engine off, shore lead out, sun covered; negatives off first and on last.",
    "Local code, makers' manuals and a licensed practitioner decide before this sheet does.",
    "Mains voltage kills: Strom does not design the AC side.",
)
CSS = """
section { break-before: page; } section:first-of-type { break-before: auto; }
.step { break-inside: avoid; border-top: 1.2pt solid #000; padding: 2mm 0 3mm; }
.step h3 { margin: 0; font-size: 11.5pt; } .live { font-size: 13pt; font-weight: bold; }
.stack { display: inline-block; border: .6pt solid #000; padding: 1mm 2mm; margin: 1mm 3mm 1mm 0; }
.labels { break-before: page; position: relative; }
.label { position: absolute; border: .3pt dotted #777; padding: 1mm 2mm; overflow: hidden;
  box-sizing: border-box; }
.label b { font-size: 13pt; display: block; line-height: 1.1; } .label span { font-size: 6.5pt; }
.label svg { float: right; height: 80%; max-height: 16mm; }
"""


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the pack that was asked for."""
    return pdf_of(variant, PackIn.model_validate(ask["pack"]), str(ask["origin"]))


def pdf_of(variant: Variant, told: PackIn, origin: str) -> bytes:
    """The pack of a variant as it stands, or one sheet of it.

    Args:
        variant: what is built.
        told: paper, sheet, how many labels go on a page.
        origin: where this server is reached, for square codes that open a part on the phone.
    """
    out = build_of(variant)
    opens = f"{origin}/jobs/{variant.job_id}/{variant.pk}/scheme?part="
    sheets = {
        "work": _work(out),
        "parts": _parts(out),
        "cuts": _cuts(out),
        "labels": _labels(out, told, opens),
        "boards": _boards(out),
        "steps": _steps(out),
    }
    whole = _cover(variant, out) + "".join(sheets.values())
    body = whole if told.sheet == "all" else sheets[told.sheet]
    foot = f"{variant.job.name}, {variant.name}, revision {variant.head}"
    return pdf(body, told.paper, foot, CSS)


def _cover(variant: Variant, out: BuildOut) -> str:
    order = out.book.order
    dead = "".join(
        f"<li>{escape(d.name)}: {d.minutes:.0f} min"
        f"{', must not be dead' if d.must_run else ''}</li>"
        for d in order.dead
    )
    open_ = "".join(
        f"<li>☐ {f.rule} {escape(f.title)}: {escape(f.missing or f.repair)}.</li>"
        for f in out.findings
    )
    return (
        f"<section><h1>{escape(variant.job.name)}: {escape(variant.name)}</h1>"
        f"<p>Build pack, revision {variant.head}, against {escape(out.against or 'a new boat')}. "
        f"{len(order.steps)} steps, {order.minutes:.0f} min of work; power off for "
        f"{order.off_minutes:.0f} min. Figures of standards: {escape(CONFIRM)}.</p>"
        f"{cautions(CAUTIONS)}"
        f"<h2>Dead while the power is off</h2><ul>{dead or '<li>Nothing that must run.</li>'}</ul>"
        f"<h2>Still open</h2><ul>{open_ or '<li>Nothing.</li>'}</ul></section>"
    )


def _work(out: BuildOut) -> str:
    words = {
        "out": "Taken out",
        "new": "New",
        "again": "Used again",
        "set": "Set",
        "stays": "Stays",
    }
    parts = table(
        ("", "Part", "What"),
        [(words[p.fate], p.name, p.words) for p in out.book.work.parts if p.fate != "stays"],
    )
    cables = table(
        ("", "Cable", "Size", "Length m", "What"),
        [
            (words[c.fate], c.name, c.gauge, c.length_m, c.words)
            for c in out.book.work.cables
            if c.fate != "stays"
        ],
    )
    return f"<section><h1>The work</h1><h2>Parts</h2>{parts}<h2>Cables</h2>{cables}</section>"


def _parts(out: BuildOut) -> str:
    rows = [
        ("☐", x.what, x.needed, x.unit or "pcs", x.kept, x.to_buy, x.cost or "", x.check)
        for x in out.book.parts.lines
    ]
    head = ("", "What", "Needed", "", "Stock", "Buy", f"Cost {out.currency}", "Read off the label")
    total = f"<p>Sum {out.currency} {out.book.parts.cost:.2f}; "
    total += f"{out.book.parts.unpriced} lines without a price.</p>"
    return f"<section><h1>Parts</h1>{table(head, rows)}{total}</section>"


def _cuts(out: BuildOut) -> str:
    rows = [
        (
            "☐",
            p.ends[0].label,
            p.ends[1].label,
            p.gauge,
            p.colour,
            p.cut_m,
            f"{p.ends[0].stud} / {p.ends[1].stud}",
            p.ends[0].strip_mm,
            "measure first" if p.provisional else "",
        )
        for p in out.book.cuts
    ]
    head = ("", "From", "To", "Size", "Colour", "Cut m", "Lugs", "Strip mm", "")
    plan = [
        (c.reel or "to buy", f"{c.gauge} {c.colour}", c.length_m, len(c.pieces), c.left_m)
        for c in out.book.plan.cuts
    ]
    cutting = table(("Reel", "Cable", "Length m", "Pieces", "Left m"), plan)
    return (
        f"<section><h1>Cuts</h1>{table(head, rows)}<h2>From which reel</h2>{cutting}"
        f"<p>To buy: {out.book.plan.to_buy_m:.2f} m. {escape(out.book.plan.by)}.</p></section>"
    )


def _labels(out: BuildOut, told: PackIn, opens: str) -> str:
    """Labels on a grid of columns by rows, so that sheets of ready-cut ones can be used."""
    paper_mm = PAPER_MM[told.paper]
    wide = (paper_mm[0] - 2 * MARGIN_MM[1]) / told.columns
    high = (paper_mm[1] - 2 * MARGIN_MM[0]) / told.rows
    labels: Sequence[Label] = out.book.labels
    a_page = told.columns * told.rows
    pages = [labels[n : n + a_page] for n in range(0, len(labels), a_page)]
    return "".join(
        f'<section class=labels style="height:{high * told.rows - 0.5:.2f}mm">'
        + "".join(_label(x, n, (wide, high), told.columns, opens) for n, x in enumerate(page))
        + "</section>"
        for page in pages
    )


def _label(
    label: Label, number: int, size_mm: tuple[float, float], columns: int, opens: str
) -> str:
    row, column = divmod(number, columns)
    wide, high = size_mm
    code = ""
    if label.sort != "cable":
        code = segno.make(f"{opens}{label.about}", error="l").svg_inline(omitsize=True)
    at = f"left:{column * wide:.2f}mm;top:{row * high:.2f}mm;width:{wide:.2f}mm;height:{high:.2f}mm"
    return (
        f'<div class=label style="{at}">{code}<b>{escape(label.large)}</b>'
        f"<span>{escape(label.small)}</span></div>"
    )


def _boards(out: BuildOut) -> str:
    made = []
    for board in out.book.boards:
        drawn = [
            f'<path d="M{x.x1_mm} {x.y1_mm}L{x.x2_mm} {x.y2_mm}" fill="none" stroke="black" '
            f'stroke-width="1"{DASHED if x.side == "neg" else ""}/>'
            for x in board.leads
        ]
        for p in board.pieces:
            drawn.append(
                f'<rect x="{p.x_mm}" y="{p.y_mm}" width="{p.width_mm}" height="{p.height_mm}" '
                'fill="white" fill-opacity="0.75" stroke="black" stroke-width="1.5"/>'
                f'<text x="{p.x_mm + 4}" y="{p.y_mm + 12}" font-size="8">'
                f"{escape(p.name[:34])}</text>"
            )
            for post in p.posts:
                drawn.append(f'<circle cx="{post.x_mm}" cy="{post.y_mm}" r="3"/>')
                drawn += [
                    f'<text x="{post.x_mm}" y="{post.y_mm + 10 + 8 * n}" font-size="7" '
                    f'text-anchor="middle">{escape(label)}</text>'
                    for n, label in enumerate(post.labels)
                ]
        wide, high = board.width_mm, board.height_mm
        scale = min(1.0, 180 / wide, 150 / high)
        picture = (
            f'<svg width="{wide * scale}mm" height="{high * scale}mm" viewBox="0 0 {wide} {high}" '
            f'xmlns="http://www.w3.org/2000/svg"><rect width="{wide}" height="{high}" fill="none" '
            f'stroke="black"/>{"".join(drawn)}</svg>'
        )
        away = escape("; ".join(f"{x.label} to {x.to}" for x in board.leads if x.to))
        rows = [(t.post, " · ".join(t.lugs), t.stud, t.torque) for t in board.terminations]
        terminations = table(("Post", "From the seat up", "Stud", "Torque"), rows)
        made.append(
            f"<h2>{escape(board.name)}, {wide:.0f} x {high:.0f} mm, scale 1 : {1 / scale:.1f}</h2>"
            f"<p>Solid: positive. Dashed: negative. What leaves the board: {away or 'nothing'}.</p>"
            f"{picture}{terminations}"
        )
    return f"<section><h1>Boards</h1>{''.join(made)}</section>"


def _box(ticked: object) -> str:
    return "☑" if ticked else "☐"


def _steps(out: BuildOut) -> str:
    done = {key for key, tick in out.state.ticks.items() if tick.done}
    made = []
    for n, step in enumerate(out.book.order.steps, 1):
        strongest = (
            f"{step.live[0].name}, {step.live[0].amps:.0f} A into a short" if step.live else ""
        )
        live = (
            f"Live after it: {len(step.live)} posts, {escape(strongest)}"
            if step.live
            else "Nothing is live after it."
        )
        doing = "".join(
            f"<li>{_box(line.key in done)} {escape(line.words)}</li>" for line in step.doing
        )
        stacks = "".join(
            f"<div class=stack><b>{escape(s.post)}</b> {s.stud} {escape(s.torque)}<br>"
            + "<br>".join(escape(lug) for lug in reversed(s.lugs))
            + "<br>seat</div>"
            for s in step.stacks
        )
        caution = f"<div class=caution>▲ {escape(step.caution)}</div>" if step.caution else ""
        made.append(
            f"<div class=step><h3>{_box(step.key in done)} {n}. {escape(step.title)} "
            f"<small>({escape(step.phase)}, {step.minutes:.0f} min)</small></h3>"
            f"<p class=live>{live}</p>{caution}<ul>{doing}</ul>{stacks}</div>"
        )
    return f"<section><h1>Steps</h1>{''.join(made)}</section>"
