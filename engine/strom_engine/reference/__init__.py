"""Tables of figures with their sources, and one typed loader."""

from strom_engine.reference.ampacity import ampacity_a, ampacity_table
from strom_engine.reference.chemistry import CHEMISTRIES, Chemistry, chemistry
from strom_engine.reference.conductors import (
    CONDUCTOR_SIZES,
    TEMPERATURE_COEFFICIENT_PER_K,
    area_mm2,
    resistivity_ohm_mm2_per_m,
)
from strom_engine.reference.tables import Table, load_table

__all__ = [
    "CHEMISTRIES",
    "CONDUCTOR_SIZES",
    "TEMPERATURE_COEFFICIENT_PER_K",
    "Chemistry",
    "Table",
    "ampacity_a",
    "ampacity_table",
    "area_mm2",
    "chemistry",
    "load_table",
    "resistivity_ohm_mm2_per_m",
]
