"""What leaves and enters: the JSON job file with its schema, CSV, and the SPICE netlist."""

from strom_engine.interchange.day_csv import dump_day
from strom_engine.interchange.job_file import (
    JOB_VERSION,
    EntryFile,
    EntryStage,
    JobFile,
    PlanFile,
    VariantFile,
    WaiverFile,
    dump_job,
    job_schema,
    parse_job,
    parse_job_text,
)
from strom_engine.interchange.loads_csv import (
    ReadRows,
    dump_counted,
    dump_loads,
    read_counted,
    read_loads,
)
from strom_engine.interchange.netlist import spice_netlist
from strom_engine.interchange.parts_csv import (
    PARTS_COLUMNS,
    PartsRow,
    ReadParts,
    dump_parts,
    parts_rows,
    read_parts,
)
from strom_engine.interchange.proof import job_problems, survey_harms, variant_problems
from strom_engine.interchange.readers import READERS, Sort, read_document
from strom_engine.interchange.runs_csv import ReadRuns, dump_runs, read_runs
from strom_engine.interchange.template import as_template

__all__ = [
    "JOB_VERSION",
    "PARTS_COLUMNS",
    "READERS",
    "EntryFile",
    "EntryStage",
    "JobFile",
    "PartsRow",
    "PlanFile",
    "ReadParts",
    "ReadRows",
    "ReadRuns",
    "Sort",
    "VariantFile",
    "WaiverFile",
    "as_template",
    "dump_counted",
    "dump_day",
    "dump_job",
    "dump_loads",
    "dump_parts",
    "dump_runs",
    "job_problems",
    "job_schema",
    "parse_job",
    "parse_job_text",
    "parts_rows",
    "read_counted",
    "read_document",
    "read_loads",
    "read_parts",
    "read_runs",
    "spice_netlist",
    "survey_harms",
    "variant_problems",
]
