"""Ink on white: the page that every PDF is laid on, with its foot, tables and cautions."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from html import escape

from PIL import ImageFile
from weasyprint import HTML

__all__ = ["MARGIN_MM", "PAPER_MM", "cautions", "fitted_pdf", "pdf", "table"]

# The maker of PDFs lets cut-off pictures pass, for the whole process; photographs of ours must not.
ImageFile.LOAD_TRUNCATED_IMAGES = False

MARGIN_MM = (16.0, 14.0)  # above and below, at the sides
PAPER_MM = {"A4": (210.0, 297.0), "letter": (215.9, 279.4), "A5": (148.0, 210.0)}
CSS = """
@page { size: %(paper)s; margin: %(margin)s;
  @bottom-left { content: "%(foot)s"; font: 8pt sans-serif; }
  @bottom-right { content: counter(page) " / " counter(pages); font: 8pt sans-serif; } }
body { font: 9.5pt/1.35 "DejaVu Sans", sans-serif; color: #000; }
h1 { font-size: 20pt; margin: 0 0 4mm; } h2 { font-size: 14pt; margin: 8mm 0 2mm; }
table { border-collapse: collapse; width: 100%%; } thead { display: table-header-group; }
th { text-align: left; border-bottom: 1pt solid #000; font-size: 8pt; }
td { border-bottom: .3pt solid #777; padding: 1mm 2mm 1mm 0; vertical-align: top; }
.n { text-align: right; white-space: nowrap; } .box { font-size: 13pt; line-height: 1; }
.caution { border: 1.2pt solid #000; padding: 2mm 3mm; margin: 2mm 0; font-weight: bold; }
ul { margin: 1mm 0; padding-left: 0; list-style: none; }
"""


def fitted_pdf(body: str, paper: str, foot: str, styles: Sequence[str], most: int = 1) -> bytes:
    """A PDF on few pages: in the first style that fits; where none does, in the last, on more.

    Args:
        body: what stands on it.
        paper: A4, letter or A5.
        foot: what stands below.
        styles: CSS beyond that of every paper, the largest letters first.
        most: pages.
    """
    for css in styles[:-1]:
        laid = _html(body, paper, foot, css).render()
        if len(laid.pages) <= most:
            made: bytes = laid.write_pdf()
            return made
    return pdf(body, paper, foot, styles[-1])


def pdf(body: str, paper: str, foot: str, css: str = "") -> bytes:
    """A PDF of a body of HTML.

    Args:
        body: what stands on its pages.
        paper: A4, letter or A5.
        foot: what stands below every page: job, variant, revision.
        css: beyond that of every paper.
    """
    made: bytes = _html(body, paper, foot, css).write_pdf()
    return made


def _html(body: str, paper: str, foot: str, css: str) -> HTML:
    margin = " ".join(f"{mm:g}mm" for mm in MARGIN_MM)
    plain = foot.replace('"', "'").replace("\\", "")
    style = CSS % {"paper": paper, "foot": plain, "margin": margin} + css
    html = f"<html lang=en><head><title>{escape(foot)}</title><style>{style}</style></head>"
    return HTML(string=f"{html}<body>{body}</body></html>", url_fetcher=_nothing)


def _nothing(url: str) -> dict[str, object]:
    """No request leaves the machine for a PDF."""
    raise ValueError(f"nothing is fetched: {url}")


def table(head: Iterable[str], rows: Iterable[Iterable[object]]) -> str:
    """A table whose head comes again on every page; numbers stand to the right."""
    top = "".join(f"<th>{escape(h)}</th>" for h in head)
    cells = (
        "".join(
            f'<td class="n">{c:g}</td>'
            if isinstance(c, int | float)
            else f"<td>{escape(str(c or ''))}</td>"
            for c in row
        )
        for row in rows
    )
    return f"<table><thead><tr>{top}</tr></thead>{''.join(f'<tr>{c}</tr>' for c in cells)}</table>"


def cautions(lines: Iterable[str]) -> str:
    """Cautions, each in a frame."""
    return "".join(f"<div class=caution>▲ {escape(line)}</div>" for line in lines)
