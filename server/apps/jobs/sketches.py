"""A scheme at the size of a stamp: boxes and lines in one ink, as SVG; and its gear in words."""

from __future__ import annotations

from strom_engine.design import Design
from strom_engine.drawing import lay_out

__all__ = ["gear_words", "sketch"]


def sketch(design: Design) -> str:
    """The positive side of a design, without words: its shape is known again in a list."""
    layout = lay_out(design, "pos")
    wires = "".join(
        f'<polyline points="{" ".join(f"{p.x:.0f},{p.y:.0f}" for p in wire.points)}"/>'
        for wire in layout.wires
    )
    boxes = "".join(
        f'<rect x="{b.x:.0f}" y="{b.y:.0f}" width="{b.width:.0f}" height="{b.height:.0f}" rx="9"/>'
        for b in layout.boxes
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" '
        f'viewBox="0 0 {layout.width:.0f} {layout.height:.0f}">'
        f'<g fill="none" stroke="#000" stroke-width="5">{wires}</g><g>{boxes}</g></svg>'
    )


def gear_words(design: Design) -> str:
    """What is aboard: names of parts and of their kinds, each once."""
    words = (word for part in design.components for word in (part.name, part.facts.word))
    return "; ".join(dict.fromkeys(words))
