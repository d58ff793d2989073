"""Advice on schemes: measures of a design, patterns ranked with reasons, variants compared."""

from strom_engine.advice.comparison import SchemeComparison, compare
from strom_engine.advice.measures import Charge, Measures, measures
from strom_engine.advice.proposing import Proposal, propose
from strom_engine.advice.ranking import PatternAdvice, PatternReason, Refusal, Wishes, advise

__all__ = [
    "Charge",
    "Measures",
    "PatternAdvice",
    "PatternReason",
    "Proposal",
    "Refusal",
    "SchemeComparison",
    "Wishes",
    "advise",
    "compare",
    "measures",
    "propose",
]
