"""What leaves and enters: the JSON job file with its schema, and the SPICE netlist."""

from strom_engine.interchange.job_file import (
    JOB_VERSION,
    Boat,
    JobFile,
    VariantFile,
    dump_job,
    job_schema,
    parse_job,
    parse_job_text,
)
from strom_engine.interchange.netlist import spice_netlist

__all__ = [
    "JOB_VERSION",
    "Boat",
    "JobFile",
    "VariantFile",
    "dump_job",
    "job_schema",
    "parse_job",
    "parse_job_text",
    "spice_netlist",
]
