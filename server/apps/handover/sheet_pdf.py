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
from apps.prints.paper import cautions, pdf

__all__ = ["made"]

CSS = """
body { font-size: 9pt; } h1 { font-size: 16pt; margin: 0 0 2mm; }
h2 { font-size: 12pt; margin: 3mm 0 1mm; border-bottom: 1pt solid #000; }
.lines { columns: 2; column-gap: 6mm; }
.line { break-inside: avoid; margin: 0 0 1.6mm; } .line b { display: block; }
.switch { display: inline-block; border: .8pt solid #000; border-radius: 1.5mm; padding: .4mm 1.6mm;
  margin: .6mm 1mm .6mm 0; } .switch strong { font-size: 11pt; }
.never { border-left: 2.5pt solid #000; padding-left: 2mm; }
"""


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the sheet that was asked for."""
    told = SheetIn.model_validate(ask)
    sheet = handover_of(variant, told.school, told.language).sheet
    day = timezone.localdate().isoformat()
    foot = f"{variant.job.name}, {variant.name}, revision {variant.head}, {day}"
    return pdf(_body(variant, sheet), told.paper, foot, CSS)


def _body(variant: Variant, sheet: SaidSheet) -> str:
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
    return f"{head}{cautions(sheet.cautions)}{''.join(sections)}"


def _switch(shown: SwitchAt) -> str:
    place = f" ({escape(shown.place)})" if shown.place else ""
    return (
        f"<span class=switch>{escape(shown.name)}{place}: "
        f"<strong>{escape(shown.mark)}</strong></span>"
    )
