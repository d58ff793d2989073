"""Tables of figures with their sources, and one typed loader."""

from strom_engine.reference.ampacity import (
    ampacity_a,
    ampacity_table,
    base_ampacity_a,
    bundling_factor,
    engine_space_c,
    engine_space_factor,
    size_in_table,
)
from strom_engine.reference.chemistry import BLOCK_V, CHEMISTRIES, TABLE_C, Chemistry, chemistry
from strom_engine.reference.clearing import bears_s, longest_opening_s, sure_multiple
from strom_engine.reference.conductors import (
    CONDUCTOR_SIZES,
    TEMPERATURE_COEFFICIENT_PER_K,
    area_mm2,
    resistivity_ohm_mm2_per_m,
)
from strom_engine.reference.dimensions import (
    Size,
    battery_size,
    bend_radius_mm,
    gear_size,
    lug_tongue_mm,
    outside_mm,
    stud_free_mm,
    stud_nut_mm,
)
from strom_engine.reference.protective import (
    DEVICES,
    DeviceType,
    breaker_class_a,
    device_named,
    device_type,
    opening_s,
    usual_fuse,
)
from strom_engine.reference.starters import cranking_amps
from strom_engine.reference.tables import CONFIRM, Table, load_table
from strom_engine.reference.terminals import Torque, crimp_pull_n, stud_torque, usual_stud
from strom_engine.reference.work import shrink_bore_mm, strip_mm, work_minutes

__all__ = [
    "BLOCK_V",
    "CHEMISTRIES",
    "CONDUCTOR_SIZES",
    "CONFIRM",
    "DEVICES",
    "TABLE_C",
    "TEMPERATURE_COEFFICIENT_PER_K",
    "Chemistry",
    "DeviceType",
    "Size",
    "Table",
    "Torque",
    "ampacity_a",
    "ampacity_table",
    "area_mm2",
    "base_ampacity_a",
    "battery_size",
    "bears_s",
    "bend_radius_mm",
    "breaker_class_a",
    "bundling_factor",
    "chemistry",
    "cranking_amps",
    "crimp_pull_n",
    "device_named",
    "device_type",
    "engine_space_c",
    "engine_space_factor",
    "gear_size",
    "load_table",
    "longest_opening_s",
    "lug_tongue_mm",
    "opening_s",
    "outside_mm",
    "resistivity_ohm_mm2_per_m",
    "shrink_bore_mm",
    "size_in_table",
    "strip_mm",
    "stud_free_mm",
    "stud_nut_mm",
    "stud_torque",
    "sure_multiple",
    "usual_fuse",
    "usual_stud",
    "work_minutes",
]
