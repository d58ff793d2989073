"""Layout of the one-line drawing: geometry only, no colours and no numbers of the moment."""

from strom_engine.drawing.geometry import Bay, Box, Layout, PostMark, Side, Spot, Wire
from strom_engine.drawing.layout import lay_out

__all__ = ["Bay", "Box", "Layout", "PostMark", "Side", "Spot", "Wire", "lay_out"]
