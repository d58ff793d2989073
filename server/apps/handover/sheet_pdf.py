"""The owner's sheet on paper: large switches, short sentences, ink on white."""

from __future__ import annotations

from html import escape

from django.utils import timezone
from strom_engine.handover import SaidSheet
from strom_engine.handover.line import SwitchAt

from apps.handover.queries import handover_of
from apps.handover.schemas import SheetIn
from apps.jobs.models import Variant
from apps.prints.makers import Ask
from apps.prints.paper import cautions, fitted_pdf

__all__ = ["CSS", "made", "sheet_body"]

CSS = """
.sheet h1 { font-size: 1.7em; margin: 0 0 1mm; }
.sheet h2 { font-size: 1.25em; margin: 1.6mm 0 .8mm; border-bottom: 1pt solid #000; }
.sheet .caution { padding: .6mm 2mm; margin: 1mm 0; }
.lines { columns: 3; column-gap: 4mm; }
.line { break-inside: avoid; margin: 0 0 1.1mm; } .line b { display: block; }
.switch { display: inline-block; border: .8pt solid #000; border-radius: 1.5mm;
  padding: .2mm 1.2mm; margin: .4mm .6mm .4mm 0; } .switch strong { font-size: 1.2em; }
.never { border-left: 2.5pt solid #000; padding-left: 2mm; }
"""
# Letters from the largest to the least that is read by a torch; then the sheet takes its back too.
SIZES_PT = (9.0, 8.2, 7.5, 6.9, 6.4)
NARROW = ".lines { columns: 2; }"


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the sheet that was asked for."""
    told = SheetIn.model_validate(ask)
    sheet = handover_of(variant, told.school, told.language).sheet
    day = timezone.localdate().isoformat()
    foot = f"{variant.job.name}, {variant.name}, revision {variant.head}, {day}"
    small = told.paper == "A5"  # laminated, front and back
    columns, pages = (NARROW, 2) if small else ("", 1)
    styles = [f"{CSS}{columns} body {{ font-size: {pt}pt; line-height: 1.22; }} "
              "@page { margin: 9mm 9mm 11mm; }" for pt in SIZES_PT]  # fmt: skip
    return fitted_pdf(sheet_body(variant, sheet), told.paper, foot, [*styles, styles[1]], pages)


def sheet_body(variant: Variant, sheet: SaidSheet) -> str:
    """The sheet as HTML, for a document of its own or as a part of one."""
    sections = []
    for section in sheet.sections:
        kind = " never" if section.id == "never" else ""
        lines = "".join(
            f'<div class="line{kind}"><b>{escape(line.head)}</b>'
            f"<div>{''.join(_switch(s) for s in line.switches)}</div>{escape(line.text)}</div>"
            for line in section.lines
        )
        if lines:
            sections.append(f"<h2>{escape(section.title)}</h2><div class=lines>{lines}</div>")
    head = f"<h1>{escape(variant.job.name)}: {escape(sheet.title)}</h1>"
    return f"<div class=sheet>{head}{cautions(sheet.cautions)}{''.join(sections)}</div>"


def _switch(shown: SwitchAt) -> str:
    place = f" ({escape(shown.place)})" if shown.place else ""
    return (
        f"<span class=switch>{escape(shown.name)}{place}: "
        f"<strong>{escape(shown.mark)}</strong></span>"
    )
