"""What is known of a boat whatever is proposed for it, and how a design takes it up."""

from strom_engine.survey.ac_checklist import AC_ITEMS, AcItemAsked, asked_of
from strom_engine.survey.audit_items import (
    AuditItem,
    CountedDay,
    Hours,
    Inverter,
    Measurement,
    Season,
)
from strom_engine.survey.find_out import ToFindOut, to_find_out
from strom_engine.survey.found_parts import found_part
from strom_engine.survey.from_designs import survey_from_designs
from strom_engine.survey.library import (
    BoatKind,
    FoundSwitching,
    LibraryItem,
    WayFound,
    boat_kinds,
    library,
)
from strom_engine.survey.new_boat import new_boat
from strom_engine.survey.survey_changes import (
    PutRows,
    RecordMeasurement,
    RemoveRows,
    SetSection,
    SurveyChange,
    apply_survey_change,
    survey_change_from,
    survey_change_words,
    survey_touched,
)
from strom_engine.survey.survey_document import (
    SURVEY_VERSION,
    Boat,
    Candidate,
    CurvePoint,
    Generator,
    Practice,
    RestReading,
    Run,
    Sizing,
    Sun,
    Survey,
    WayOfUse,
)
from strom_engine.survey.survey_validation import parse_survey, survey_problems
from strom_engine.survey.surveyed import (
    CableLength,
    SurveyedDesign,
    cable_lengths,
    surveyed,
    with_loads,
)

__all__ = [
    "AC_ITEMS",
    "SURVEY_VERSION",
    "AcItemAsked",
    "AuditItem",
    "Boat",
    "BoatKind",
    "CableLength",
    "Candidate",
    "CountedDay",
    "CurvePoint",
    "FoundSwitching",
    "Generator",
    "Hours",
    "Inverter",
    "LibraryItem",
    "Measurement",
    "Practice",
    "PutRows",
    "RecordMeasurement",
    "RemoveRows",
    "RestReading",
    "Run",
    "Season",
    "SetSection",
    "Sizing",
    "Sun",
    "Survey",
    "SurveyChange",
    "SurveyedDesign",
    "ToFindOut",
    "WayFound",
    "WayOfUse",
    "apply_survey_change",
    "asked_of",
    "boat_kinds",
    "cable_lengths",
    "found_part",
    "library",
    "new_boat",
    "parse_survey",
    "survey_change_from",
    "survey_change_words",
    "survey_from_designs",
    "survey_problems",
    "survey_touched",
    "surveyed",
    "to_find_out",
    "with_loads",
]
