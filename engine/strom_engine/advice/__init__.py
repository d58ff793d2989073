"""Advice on schemes: measures of a design, patterns ranked with reasons, variants compared."""

from strom_engine.advice.comparison import Comparison, compare
from strom_engine.advice.measures import Charge, Measures, measures
from strom_engine.advice.ranking import Advice, Reason, Refusal, Wishes, advise

__all__ = [
    "Advice",
    "Charge",
    "Comparison",
    "Measures",
    "Reason",
    "Refusal",
    "Wishes",
    "advise",
    "compare",
    "measures",
]
