"""From a chosen design to hands on the boat: the work, parts, cuts, labels, order of work."""

from strom_engine.build.board import Board, BoardLead, boards
from strom_engine.build.book import BuildBook, build_book
from strom_engine.build.costs import Costs, costs
from strom_engine.build.cuts import CutEnd, Piece, cut_length_m, pieces
from strom_engine.build.cutting_plan import Cut, CuttingPlan, cutting_plan
from strom_engine.build.difference import CableWork, PartWork, Work, work
from strom_engine.build.labels import Label, labels
from strom_engine.build.moment import Hazard, LivePost, Moment
from strom_engine.build.parts_list import PartsLine, PartsList, parts_list
from strom_engine.build.steps import DeadLoad, Order, Step, order_of_work, reordered

__all__ = [
    "Board",
    "BoardLead",
    "BuildBook",
    "CableWork",
    "Costs",
    "Cut",
    "CutEnd",
    "CuttingPlan",
    "DeadLoad",
    "Hazard",
    "Label",
    "LivePost",
    "Moment",
    "Order",
    "PartWork",
    "PartsLine",
    "PartsList",
    "Piece",
    "Step",
    "Work",
    "boards",
    "build_book",
    "costs",
    "cut_length_m",
    "cutting_plan",
    "labels",
    "order_of_work",
    "parts_list",
    "pieces",
    "reordered",
    "work",
]
