"""The drawing of a scheme in ink: parts as named boxes, cables as lines with their size."""

from __future__ import annotations

from html import escape

from strom_engine.design import Design
from strom_engine.drawing import Layout

__all__ = ["drawing_svg"]

LETTER_WIDTH = 6.0  # of a letter at 10 units, so that names end where their box ends
LINE = 11


def drawing_svg(design: Design, layout: Layout, wide_mm: float, high_mm: float) -> str:
    """A drawing as SVG that fits a page.

    Args:
        design: the boat.
        layout: of one side of its circuit.
        wide_mm: room on the page.
        high_mm: room on the page.
    """
    scale = min(wide_mm / layout.width, high_mm / layout.height)
    cables = {c.id: c for c in design.cables}
    names = {p.id: p.name for p in design.components}
    drawn = [
        f'<rect x="{b.x + 3}" y="4" width="{b.width - 6}" height="{layout.height - 8}" rx="14" '
        'fill="none" stroke="#888" stroke-dasharray="3 4"/>'
        f'<text x="{b.x + b.width / 2}" y="20" text-anchor="middle" font-size="12" '
        f'font-weight="bold">{escape(names.get(b.bank, b.bank))}</text>'
        for b in layout.bays
    ]
    for wire in layout.wires:
        points = " ".join(f"{p.x},{p.y}" for p in wire.points)
        thin = wire.id in cables and cables[wire.id].purpose == "sense"
        drawn.append(
            f'<polyline points="{points}" fill="none" stroke="#000" '
            f'stroke-width="{1 if thin else 2}"/>'
        )
    for wire in layout.wires:
        label = cables[wire.id].gauge if wire.id in cables else ""
        wide = LETTER_WIDTH * len(label)
        drawn.append(
            f'<rect x="{wire.label_x - wide / 2}" y="{wire.label_y - 6}" width="{wide}" '
            f'height="12" fill="#fff"/><text x="{wire.label_x}" y="{wire.label_y + 3}" '
            f'text-anchor="middle" font-size="9">{escape(label)}</text>'
        )
    for box in layout.boxes:
        drawn.append(
            f'<rect x="{box.x}" y="{box.y}" width="{box.width}" height="{box.height}" rx="5" '
            'fill="#fff" stroke="#000" stroke-width="1.4"/>'
        )
        lines = _wrapped(names.get(box.id, box.id), box.width, box.height)
        top = box.y + box.height / 2 - LINE * (len(lines) - 1) / 2 + 3
        drawn += [
            f'<text x="{box.x + box.width / 2}" y="{top + LINE * n}" text-anchor="middle" '
            f'font-size="10">{escape(line)}</text>'
            for n, line in enumerate(lines)
        ]
        drawn += [f'<circle cx="{post.x}" cy="{post.y}" r="3"/>' for post in box.posts]
    return (
        f'<svg width="{layout.width * scale:.1f}mm" height="{layout.height * scale:.1f}mm" '
        f'viewBox="0 0 {layout.width} {layout.height}" xmlns="http://www.w3.org/2000/svg" '
        f'font-family="DejaVu Sans, sans-serif">{"".join(drawn)}</svg>'
    )


def _wrapped(name: str, width: float, height: float) -> list[str]:
    """A name in the lines that a box has room for; what does not fit ends with a mark."""
    letters = max(int(width / LETTER_WIDTH), 4)
    lines = [""]
    for word in name.split():
        if lines[-1] and len(lines[-1]) + 1 + len(word) > letters:
            lines.append(word)
        else:
            lines[-1] = f"{lines[-1]} {word}".strip()
    kept = lines[: max(int(height / LINE), 1)]
    cut = [line if len(line) <= letters else f"{line[: letters - 1]}…" for line in kept]
    return cut if len(kept) == len(lines) else [*cut[:-1], f"{cut[-1][: letters - 1]}…"]
