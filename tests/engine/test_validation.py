"""Bad documents: every problem at once, each with its path and its reason."""

import copy
import json
import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strom_engine.design import DESIGN_VERSION, Design, design_problems, parse_design
from strom_engine.errors import DesignError, JobFileError
from strom_engine.interchange import dump_job, job_schema, parse_job_text

from tests.engine.boats import DEMO_FILES, demo_job, two_banks


def raw() -> dict[str, Any]:
    return two_banks().design().model_dump(mode="json")


def problems(document: object) -> dict[str, str]:
    with pytest.raises(DesignError) as caught:
        parse_design(document)
    return {p.path: p.message for p in caught.value.problems}


def test_all_problems_are_told_at_once() -> None:
    document = raw()
    document["components"][0]["kind"] = "bnak"
    document["components"][1]["unit_ah"] = -5
    document["components"][2]["colour"] = "red"
    document["components"][4]["name"] = document["components"][3]["name"]
    document["cables"][0]["length_m"] = math.nan
    document["cables"][1]["length_m"] = -1
    document["cables"][2]["end"] = "starter.poz"
    document["cables"][3]["gauge"] = "3/8 inch"
    document["cables"][4]["end"] = "panel.neg"
    found = problems(document)
    assert "did you mean 'bank'" in found["components[0]"]
    assert "equal to 0.5" in found["components[1].unit_ah"]
    assert "not a field" in found["components[2].colour"]
    assert "used 2 times" in found["components[4].name"]
    assert "finite number" in found["cables[0].length_m"]
    assert "given: -1" in found["cables[1].length_m"]
    assert found["cables[2].end"].endswith("(did you mean 'starter.pos'?)")
    assert "not a known size" in found["cables[3].gauge"]
    assert len(found) == 9  # both of the parts of one name are told


def test_a_short_through_a_switch_is_found() -> None:
    document = raw()
    document["cables"][4]["end"] = "panel.neg"  # from the selector's common post
    assert any("through metal" in text for text in problems(document).values())


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        (("components", 3, "id"), "panel", "used 2 times"),
        (("cables", 5, "end"), "engine_bank.pos", "a dead short"),
        (("cables", 5, "end"), "engine_bank.neg", "both ends on"),
        (("components", 2, "field_contact_of"), "altenator", "did you mean 'alternator'"),
        (("components", 0, "place"), "attic", "no place 'attic'"),
        (("components", 5, "items", 0, "profiles"), ["livng"], "no profile 'livng'"),
        (("components", 0, "name"), "a\x00b", "control characters"),
        (("version",), DESIGN_VERSION + 1, "written by a later one"),
        (("components", 3, "full_rpm"), 100, "must be above cut_in_rpm"),
        (("system_v",), 13, "12, 24 or 48"),
    ],
)
def test_each_problem_names_its_reason(path: tuple[Any, ...], value: Any, words: str) -> None:
    document = raw()
    at = document
    for step in path[:-1]:
        at = at[step]
    at[path[-1]] = value
    assert any(words in message for message in problems(document).values())


@pytest.mark.parametrize("document", [None, [], 3, "design", {"components": 4, "cables": None}])
def test_what_is_no_design_at_all(document: object) -> None:
    assert problems(document)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (b"{", "not JSON"),
        (b"\xff\xfe", "not UTF-8"),
        (b"[" * 100_000, "not JSON"),
        (b"[]", "must hold one object"),
        (b'{"version": 7}', "written by a later one"),
        (b" " * 40_000_000, "the limit is 4 MB"),
        (b'{"name": ' + b"9" * 5000 + b"}", "not JSON"),
        (b'{"name": "Boat", "variants": [{"name": ["a"]}]}', "survey: is missing"),
    ],
)
def test_files_that_cannot_be_read(text: bytes, words: str) -> None:
    with pytest.raises(JobFileError, match=words):
        parse_job_text(text)


def test_problems_of_a_job_name_the_variant() -> None:
    document = demo_job("marsh_wren.json").model_dump(mode="json")
    document["variants"][1]["name"] = document["variants"][0]["name"]
    document["variants"][2]["design"]["cables"][0]["end"] = "nowhere.at_all"
    document["survey"]["boat"]["length_m"] = 0
    with pytest.raises(JobFileError) as caught:
        parse_job_text(json.dumps(document))
    paths = {p.path for p in caught.value.problems}
    assert {"variants[1].name", "variants[2].design.cables[0].end", "survey.boat.length_m"} <= paths


@pytest.mark.parametrize("name", DEMO_FILES)
def test_a_job_written_and_read_again_is_the_same(name: str) -> None:
    job = demo_job(name)
    text = dump_job(job)
    assert parse_job_text(text) == job
    assert dump_job(parse_job_text(text)) == text


def test_the_schema_speaks_of_every_kind() -> None:
    text = json.dumps(job_schema())
    assert all(f'"const": "{p.kind}"' in text for p in two_banks().design().components)


JSON = st.recursive(
    st.none() | st.booleans() | st.floats() | st.integers() | st.text(),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=3),
    max_leaves=5,
)


@given(st.data())
@settings(max_examples=150, deadline=None)
def test_nonsense_anywhere_is_a_design_error_or_a_design(data: st.DataObject) -> None:
    document = copy.deepcopy(RAW)
    at: Any = document
    while True:
        key = data.draw(st.sampled_from(sorted(at) if isinstance(at, dict) else range(len(at))))
        if not isinstance(at[key], dict | list) or not at[key] or data.draw(st.booleans()):
            break
        at = at[key]
    at[key] = data.draw(JSON)
    problems = design_problems(document)
    if not problems:
        assert isinstance(parse_design(document), Design)
    assert all(p.message for p in problems)


RAW = raw()
