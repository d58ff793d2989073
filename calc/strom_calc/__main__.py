"""``python -m strom_calc COMMAND JOB.json``: JSON on standard output, errors on standard error.

Exit status 0 when it could be computed, 2 with the reasons when not.
"""

from __future__ import annotations

import argparse
import dataclasses
import json
import sys
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any, get_args

from pydantic import BaseModel, ValidationError
from strom_engine.advice import advise, measures
from strom_engine.build import BuildBook, build_book
from strom_engine.circuit import bench, position_card
from strom_engine.dayrun import SchoolId
from strom_engine.design import Design, State, check_state
from strom_engine.design.figures import kind_sheets
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import Problem, StateError, StromError
from strom_engine.faults import Fault, fault_from_key
from strom_engine.handover import (
    LANGUAGES,
    PLAIN_FROM,
    owner_sheet,
    reading_ease,
    said_sheet,
)
from strom_engine.interchange import JobFile, job_schema, parse_job_text, spice_netlist
from strom_engine.prove import (
    as_tests,
    diagnosis,
    proving_tests,
    read_readings,
    search_drafts,
)
from strom_engine.records import Shunted
from strom_engine.rules import findings, repair_plan
from strom_engine.runs import choose, runs_report
from strom_engine.sizing import bank_plan, load_report
from strom_engine.survey import Survey, SurveyedDesign, surveyed, to_find_out
from strom_engine.survey.choice_words import choice_sheets

from strom_calc.day_command import DayAsked, lived
from strom_calc.record_commands import RecordAsked, recorded_csv, records_told


@dataclasses.dataclass(frozen=True)
class Task:
    """What a command computes on: a variant, as drawn and as surveyed, and a state of it."""

    drawn: Design
    survey: Survey
    state: State
    fault_keys: tuple[str, ...] = ()
    found: SurveyedDesign | None = None

    @property
    def book(self) -> BuildBook:
        """What is to be done to make the first variant, as found, into this one."""
        return build_book(self.found, self.design)

    @property
    def faults(self) -> tuple[Fault, ...]:
        """What has failed, by the keys that were given. Raises FaultError."""
        return tuple(fault_from_key(self.design, key) for key in self.fault_keys)

    @property
    def design(self) -> SurveyedDesign:
        """The design with what the survey knows better."""
        return surveyed(self.drawn, self.survey)


Compute = Callable[[Task], object]
_Commands = Any  # of argparse, which names its type privately


def _netlist(task: Task) -> object:
    design, state = task.design, task.state
    return spice_netlist(design, state, bench(design, state).point.moved())


def _advice(task: Task) -> object:
    found, refused = advise(task.drawn, task.survey)
    return {"advice": found, "refused": refused}


def _diagnosed(design: SurveyedDesign, path: Path) -> object:
    """Causes by the readings of a file, with the next reading in words."""
    try:
        raw = json.loads(path.read_bytes())
    except (OSError, ValueError) as error:
        raise StromError(f"{path}: {error}") from None
    drafts = [d for d in search_drafts(design) if d.probe and d.state]
    found = diagnosis(
        design,
        read_readings(raw, design),
        [(d.probe, d.state, d.minutes) for d in drafts if d.probe and d.state],
    )
    plain = _plain(found)
    assert isinstance(plain, dict)
    if found.next is not None:
        plain["next"] = _plain(as_tests(design, [drafts[found.next]])[0])
    return plain


def _without_design(result: object) -> object:
    plain = _plain(result)
    assert isinstance(plain, dict)
    return {name: value for name, value in plain.items() if name != "design"}


COMMANDS: dict[str, tuple[str, Compute]] = {
    "advice": (
        "patterns ranked for this boat, each with its reasons",
        _advice,
    ),
    "audit": (
        "what a day costs in each profile, and the counted way beside it",
        lambda t: load_report(t.design, t.survey),
    ),
    "banks": (
        "yields, need, candidate banks and the start bank",
        lambda t: bank_plan(t.design, t.survey),
    ),
    "bench": (
        "every volt and amp of a state, and the two tables",
        lambda t: bench(t.design, t.state, *t.faults),
    ),
    "find-out": (
        "what nobody knows yet, for a walk round the boat",
        lambda t: to_find_out(t.drawn, t.survey),
    ),
    "cuts": (
        "every piece of cable to be made, and from which reel",
        lambda t: {"pieces": t.book.cuts, "plan": t.book.plan},
    ),
    "findings": (
        "what breaks a rule, with its arithmetic",
        lambda t: findings(t.drawn, t.survey),
    ),
    "measures": (
        "what a variant comes to, in the numbers that variants are compared by",
        lambda t: measures(t.drawn, t.survey),
    ),
    "parts": (
        "the parts list against the first variant, with what stays and what is taken out",
        lambda t: {"parts": t.book.parts, "work": t.book.work},
    ),
    "repairs": (
        "repairs that are safe to make at once, in their order, and what is left then",
        lambda t: _without_design(repair_plan(t.drawn, t.survey)),
    ),
    "runs": (
        "every cable and device: size, drop, protection, whole paths, ladders",
        lambda t: runs_report(t.design, t.survey),
    ),
    "sizes": (
        "sizes and devices chosen for every run, as changes in words",
        lambda t: _without_design(choose(t.design, None, t.survey.practice.standard)),
    ),
    "steps": (
        "the order of work, each step with what is live after it",
        lambda t: t.book.order,
    ),
    "tests": (
        "tests to prove the boat by, each with the range of its reading",
        lambda t: proving_tests(t.design),
    ),
    "netlist": ("a state as a SPICE netlist (plain text)", _netlist),
    "positions": (
        "every position of every switch, engine off and on",
        lambda t: position_card(t.design, t.state),
    ),
    "reach": (
        "who feeds what and what charges what, by the graph",
        lambda t: bench(t.design, t.state).reach,
    ),
}


def main(arguments: list[str] | None = None) -> int:
    """Run one command."""
    options = _parser().parse_args(arguments)
    try:
        if options.command == "schema":
            print(json.dumps(job_schema(), indent=1))
            return 0
        if options.command == "kinds":
            kinds = [s.model_dump(mode="json", exclude_defaults=True) for s in kind_sheets()]
            lists = {s.name: s.model_dump(mode="json")["choices"] for s in choice_sheets()}
            print(json.dumps({"kinds": kinds, "choices": lists}, indent=1, ensure_ascii=False))
            return 0
        job = _read(options.job)
        if options.command == "validate":
            names = [v.name for v in job.variants]
            print(json.dumps({"valid": True, "job": job.name, "variants": names}))
            return 0
        drawn = _variant(job, options.variant)
        state = _state(surveyed(drawn, job.survey), options.state)
        if options.command == "diagnose":
            result = _diagnosed(surveyed(drawn, job.survey), options.readings)
        elif options.command == "record":
            day = DayAsked(options.plan, options.school, as_csv=True)
            result = recorded_csv(
                drawn,
                job.survey,
                RecordAsked(
                    day,
                    options.bank,
                    options.every,
                    options.begins,
                    tuple(options.fault),
                    options.seed,
                ),
            )
        elif options.command == "sheet":
            design = surveyed(drawn, job.survey)
            sheet = owner_sheet(design, job.survey, options.school or "as_drawn")
            result = said_sheet(sheet, options.language)
            if options.ease:
                ease = reading_ease(said_sheet(sheet, "en").text)
                result = {"reading_ease": round(ease, 1), "plain_from": PLAIN_FROM}
        elif options.command == "records":
            shunt = Shunted(options.bank, options.zone, driven=options.driven)
            school: SchoolId = options.school or "as_drawn"
            result = records_told(drawn, job.survey, options.file, shunt, school)
        elif options.command == "day":
            asked = DayAsked(
                options.plan,
                options.school,
                as_csv=options.csv,
                fault=options.fault,
                fault_at_h=options.fault_at,
            )
            result = lived(drawn, job.survey, asked)
        else:
            result = COMMANDS[options.command][1](
                Task(
                    drawn,
                    job.survey,
                    state,
                    tuple(getattr(options, "fault", None) or ()),
                    _found(job, drawn),
                )
            )
    except StromError as error:
        for problem in error.problems:
            print(problem, file=sys.stderr)
        return 2
    text = result if isinstance(result, str) else json.dumps(_plain(result), indent=1) + "\n"
    sys.stdout.write(text)
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./strom calc", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    commands.add_parser("schema", help="JSON Schema of the job file")
    commands.add_parser("kinds", help="every kind of part and the figures asked of it")
    check = commands.add_parser("validate", help="whether a job file can be read, and if not why")
    check.add_argument("job", type=Path)
    for name, (words, _) in COMMANDS.items():
        command = commands.add_parser(name, help=words)
        command.add_argument("job", type=Path)
        command.add_argument("--variant", help="name of the variant; the first one by default")
        command.add_argument("--state", default="{}", help="state as JSON")
        fault = "what has failed: its key, such as 'stuck_open relay'; may be given again"
        if name == "bench":
            command.add_argument("--fault", action="append", help=fault)
    diagnose = commands.add_parser(
        "diagnose", help="what may be wrong by readings, and which reading tells most next"
    )
    diagnose.add_argument("job", type=Path)
    diagnose.add_argument("readings", type=Path, help="readings as JSON; see docs/calc.md")
    diagnose.add_argument("--variant", help="name of the variant; the first one by default")
    diagnose.set_defaults(state="{}")
    _record_parsers(commands)
    sheet = commands.add_parser("sheet", help="the owner's sheet in words")
    sheet.add_argument("job", type=Path)
    sheet.add_argument("--variant", help="name of the variant; the first one by default")
    sheet.add_argument("--school", choices=get_args(SchoolId), help="who turns the switches")
    sheet.add_argument("--language", choices=LANGUAGES, default="en")
    sheet.add_argument("--ease", action="store_true", help="only how easily its English reads")
    sheet.set_defaults(state="{}")
    day = commands.add_parser(
        "day", help="a day run through a plan: report, events, accounts, series"
    )
    day.add_argument("job", type=Path)
    day.add_argument("--variant", help="name of the variant; the first one by default")
    day.add_argument("--plan", required=True, help="a ready plan by its id, or a file with a plan")
    day.add_argument("--school", help="who turns the switches: a, b, c, d or as_drawn")
    day.add_argument("--fault", help="what fails: its key, such as 'source_fading alternator'")
    day.add_argument(
        "--fault-at", type=float, default=0.0, help="hour of the plan at which it fails"
    )
    day.add_argument("--csv", action="store_true", help="the series alone, as CSV")
    day.set_defaults(state="{}")
    return parser


def _record_parsers(commands: _Commands) -> None:
    """``record``, what a simulated monitor writes, and ``records``, what a file of them says."""
    record = commands.add_parser(
        "record", help="what a monitor on a bank would write of a plan, as CSV"
    )
    record.add_argument("job", type=Path)
    record.add_argument("--plan", required=True, help="a ready plan by its id, or a file")
    record.add_argument("--fault", action="append", default=[], help="what has failed, by its key")
    record.add_argument("--every", type=float, default=60.0, help="seconds between two rows")
    record.add_argument("--begins", default="2025-07-01T12:00Z", help="when the plan begins")
    record.add_argument("--seed", type=int, default=1, help="of noise and lost rows")
    records = commands.add_parser("records", help="what a file of records says of the boat")
    records.add_argument("job", type=Path)
    records.add_argument("file", type=Path, help="records as CSV or TSV")
    records.add_argument("--zone", default="UTC", help="time zone the boat lies in")
    driven = ("both", "engine", "shore")
    records.add_argument("--driven", choices=driven, default="both", help="beside the sun")
    for command in (record, records):
        command.add_argument("--school", choices=get_args(SchoolId), help="who turns the switches")
        command.add_argument("--variant", help="name of the variant; the first one by default")
        command.add_argument("--bank", default="house_bank", help="the bank with the monitor")
        command.set_defaults(state="{}")


def _read(path: Path) -> JobFile:
    try:
        return parse_job_text(path.read_bytes())
    except OSError as error:
        raise StromError(f"{path}: {error.strerror}") from None


def _found(job: JobFile, drawn: Design) -> SurveyedDesign | None:
    """The first variant, the boat as found; None where that is the one computed on."""
    first = job.variants[0].design
    return None if first is drawn else surveyed(first, job.survey)


def _variant(job: JobFile, name: str | None) -> Design:
    found = [v for v in job.variants if name in (None, v.name)]
    if not found:
        known = ", ".join(v.name for v in job.variants)
        raise StromError(f"there is no variant {name!r}; known: {known}")
    return found[0].design


def _state(design: Design, text: str) -> State:
    try:
        state = State.model_validate_json(text)
    except ValidationError as error:
        raise StateError(
            [Problem(f"state.{p.path}", p.message) for p in problems_from_pydantic(error)]
        ) from None
    return check_state(design, state)


def _plain(value: object) -> object:
    """Results as JSON data."""
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        return {f.name: _plain(getattr(value, f.name)) for f in dataclasses.fields(value)}
    if isinstance(value, Mapping):
        return {str(k): _plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple | set | frozenset):
        return [_plain(v) for v in value]
    return value


if __name__ == "__main__":
    sys.exit(main())
