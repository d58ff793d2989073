"""Jobs in and out, changes with their history, and what happens when two people save."""

from __future__ import annotations

import json
from typing import Any

import pytest
from apps.jobs.models import Job, Variant
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.engine.boats import DEMO, DEMO_FILES
from tests.server.conftest import Person

SOLAR_TO_ENGINE = {
    "type": "move_cable_end",
    "cable": "solar_house",
    "end": "end",
    "to": "engine_bank.pos",
}
THICKER = {"type": "set_cable_gauge", "cable": "panel_neg", "gauge": "2 AWG"}


def gauge(cable: str, size: str) -> dict[str, str]:
    return {"type": "set_cable_gauge", "cable": cable, "gauge": size}


def url(variant: Variant, what: str) -> str:
    return f"/api/variants/{variant.pk}/{what}"


def scheme(person: Person, variant: Variant) -> Any:
    return person.get(url(variant, "scheme")).json()


def send(person: Person, variant: Variant, base: int, change: object, status: int = 200) -> Any:
    body = {"base_revision": base, "change": change}
    return person.post(url(variant, "changes"), body, status)


def end_of(found: Any, cable: str) -> str:
    return next(str(c["end"]) for c in found["design"]["cables"] if c["id"] == cable)


@pytest.mark.parametrize("name", DEMO_FILES)
def test_a_job_exported_and_brought_in_again_is_unchanged(anna: Person, name: str) -> None:
    first = anna.post("/api/jobs/import", (DEMO / name).read_bytes())
    text = anna.get(f"/api/jobs/{first['id']}/export").content
    second = anna.post("/api/jobs/import", text)
    assert anna.get(f"/api/jobs/{second['id']}/export").content == text
    assert first["id"] != second["id"]
    assert [v["name"] for v in first["variants"]] == [v["name"] for v in second["variants"]]


def test_bad_files_name_every_reason_and_save_nothing(anna: Person) -> None:
    document = json.loads((DEMO / "pilot_3.json").read_text())
    design = document["variants"][0]["design"]
    design["components"][0]["kind"] = "battery"
    design["components"][2]["rated_a"] = float("nan")
    design["components"][4]["name"] = design["components"][3]["name"]
    design["cables"][0]["length_m"] = -2
    design["cables"][1]["end"] = "selector.three"
    answer = anna.post("/api/jobs/import", json.dumps(document), 422)
    at = "variants[0].design."
    paths = {error["path"] for error in answer["errors"]}
    assert paths >= {
        f"{at}components[0]",
        f"{at}components[2].rated_a",
        f"{at}components[4].name",
        f"{at}cables[0].length_m",
        f"{at}cables[1].end",
    }
    assert not Job.objects.exists()


@pytest.mark.parametrize(
    ("body", "status", "words"),
    [
        (b"{nope", 422, "not JSON"),
        (b"", 422, "not JSON"),
        (b'{"format": "strom-job", "version": 9}', 422, "written by a later one"),
        (b" " * 40_000_000, 413, "40.0 MB; the limit is 4 MB"),
        (b'"\\ud800"', 422, "one object"),
    ],
)
def test_files_that_are_no_jobs(anna: Person, body: bytes, status: int, words: str) -> None:
    answer = anna.post("/api/jobs/import", body, status)
    assert words in json.dumps(answer)
    assert not Job.objects.exists()


def test_moving_undoing_redoing_and_going_back(anna: Person, variant: Variant) -> None:
    moved = send(anna, variant, 1, SOLAR_TO_ENGINE)
    assert end_of(moved, "solar_house") == "engine_bank.pos"
    thicker = send(anna, variant, moved["revision"], THICKER)
    words = [moved["can_undo"], thicker["can_undo"]]
    assert words[0].startswith("Moved the cable from Solar +")
    assert words[1] == "House panel − to Negative bar s4: 6 AWG to 2 AWG"

    def go(what: str, base: int, status: int = 200) -> Any:
        return anna.post(url(variant, what), {"base_revision": base}, status)

    back = go("undo", 3)
    assert (back["can_undo"], back["can_redo"]) == tuple(words)
    first = go("undo", 4)
    assert end_of(first, "solar_house") == "house_bank.pos"
    assert first["can_undo"] is None
    assert go("undo", 5, 422)["detail"] == "there is nothing left to undo"
    again = go("redo", 5)
    assert (again["can_undo"], again["can_redo"]) == tuple(words)
    assert go("redo", 6)["design"] == thicker["design"]
    assert go("redo", 7, 422)["detail"] == "there is nothing to redo"
    restored = anna.post(url(variant, "restore"), {"base_revision": 7, "revision": 1})
    assert restored["design"] == first["design"]
    history = anna.get(url(variant, "revisions")).json()
    assert [r["kind"] for r in history] == [
        "restore", "redo", "redo", "undo", "undo", "change", "change", "import",
    ]  # fmt: skip
    assert history[1]["words"].startswith("Did again: House panel")


def test_what_touches_other_things_is_put_on_top(anna: Person, variant: Variant) -> None:
    send(anna, variant, 1, SOLAR_TO_ENGINE)
    both = send(anna, variant, 1, THICKER)  # made on 1, while 2 was saved
    assert both["revision"] == 3
    assert end_of(both, "solar_house") == "engine_bank.pos"
    gauges = {c["id"]: c["gauge"] for c in both["design"]["cables"]}
    assert gauges["panel_neg"] == "2 AWG"


def test_a_clash_keeps_both_versions_and_says_so(anna: Person, variant: Variant) -> None:
    theirs = send(anna, variant, 1, SOLAR_TO_ENGINE)
    clash = send(anna, variant, 1, gauge("solar_house", "4 AWG"), 409)
    assert clash["current_revision"] == 2
    assert clash["saved_meanwhile"] == [theirs["can_undo"]]
    assert "Yours is kept as version 3" in clash["detail"]
    assert scheme(anna, variant)["design"] == theirs["design"]
    body = {"base_revision": 2, "revision": clash["kept_revision"]}
    mine = anna.post(url(variant, "restore"), body)
    gauges = {c["id"]: c["gauge"] for c in mine["design"]["cables"]}
    assert (gauges["solar_house"], end_of(mine, "solar_house")) == ("4 AWG", "house_bank.pos")


def test_undoing_what_somebody_else_has_built_on_is_a_clash(anna: Person, variant: Variant) -> None:
    send(anna, variant, 1, SOLAR_TO_ENGINE)
    send(anna, variant, 2, THICKER)
    answer = anna.post(url(variant, "undo"), {"base_revision": 2}, 409)
    assert answer["current_revision"] == 3
    # a change made before an undo cannot be put on top of it either
    anna.post(url(variant, "undo"), {"base_revision": 3})
    assert send(anna, variant, 3, gauge("bilge_neg", "12 AWG"), 409)["kept_revision"] == 5


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"type": "move_cable_end"}, "Field required"),
        ({"type": "rewire"}, "type 'rewire' is unknown"),
        (gauge("nothing", "2 AWG"), "there is no cable 'nothing'"),
        (gauge("panel_neg", "2 inches"), "not a known size"),
        (SOLAR_TO_ENGINE | {"to": "engine_bank.neg"}, "cannot land"),
    ],
)
def test_changes_that_do_not_fit_save_nothing(
    anna: Person, variant: Variant, change: dict[str, str], words: str
) -> None:
    assert words in json.dumps(send(anna, variant, 1, change, 422))
    assert variant.revisions.count() == 1


@pytest.mark.parametrize("base", [0, -1, 7, 10**30, "one", None])
def test_a_base_that_is_no_version(anna: Person, variant: Variant, base: object) -> None:
    body = {"base_revision": base, "change": THICKER}
    assert anna.post(url(variant, "changes"), body, 422)["errors"]


def test_the_bench_over_the_wire(anna: Person, variant: Variant) -> None:
    state = {"engine": "on", "rpm": 1400, "sun": 0.4, "profile": "at_anchor"}
    found = anna.post(url(variant, "bench"), state)
    assert found["revision"] == 1
    assert found["point"]["sources"]["alternator"]["mode"] == "limit"
    assert found["loads_by_bank"]["house_panel"]["engine_bank"]["joined"] is True
    assert found["sources_by_bank"]["alternator"]["thruster_bank"]["joined"] is False
    bad = anna.post(url(variant, "bench"), {"rpm": -1, "engine": "maybe"}, 422)
    assert {e["path"] for e in bad["errors"]} == {"rpm", "engine"}
    lost = anna.post(url(variant, "bench"), {"positions": {"selector": "3"}}, 422)
    assert lost["errors"][0]["path"] == "positions.selector"
    assert anna.get("/api/variants/not-an-id/scheme").status_code in (404, 422)


WRITES = ("bench", "positions", "netlist", "changes", "undo", "redo", "restore")
NONSENSE = st.recursive(
    st.none() | st.booleans() | st.floats() | st.integers() | st.text(max_size=5),
    lambda inner: (
        st.lists(inner, max_size=3)
        | st.dictionaries(
            st.sampled_from(
                ("base_revision", "change", "type", "cable", "positions", "rpm", "soc", "x")
            ),
            inner,
            max_size=4,
        )
    ),
    max_leaves=8,
)


@given(body=NONSENSE, what=st.sampled_from(WRITES))
@settings(
    max_examples=150, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
def test_nonsense_is_refused_in_words(
    anna: Person, variant: Variant, body: object, what: str
) -> None:
    text = json.dumps(body)
    response = anna.client.post(url(variant, what), text, content_type="application/json")
    assert response.status_code in (200, 400, 409, 422)
    if response.status_code >= 400:
        assert response["Content-Type"] == "application/problem+json"


def test_card_findings_landing_and_netlist(anna: Person, variant: Variant) -> None:
    card = anna.post(url(variant, "positions"), {"profile": "at_anchor"})["card"]
    assert len(card["rows"]) == 16
    told = anna.get(url(variant, "findings")).json()
    assert told["findings"][0]["rule"] == "SW-4"
    posts = anna.get(url(variant, "landing") + "?cable=solar_house&end=end").json()["posts"]
    assert "engine_bank.pos" in posts and "house_bank.pos" not in posts
    response = anna.client.post(url(variant, "netlist"), "{}", content_type="application/json")
    assert response.content.decode().startswith("* Strom")
    assert "JobFile" in anna.get("/api/job-schema").json()["title"]


# -- the list of jobs --------------------------------------------------------------------------


def names(person: Person, asked: str = "") -> list[str]:
    return [job["name"] for job in person.get(f"/api/jobs?{asked}").json()["jobs"]]


def patch(person: Person, job: str, body: object, status: int = 200) -> Any:
    sent = person.client.patch(
        f"/api/jobs/{job}", json.dumps(body), content_type="application/json"
    )
    assert sent.status_code == status, sent.content
    return sent.json()


@pytest.fixture
def three(anna: Person) -> dict[str, str]:
    """Three boats, their findings counted, and where their work stands."""
    made = {}
    for name in ("Tern", "auk", "Skua"):
        asked = {"name": name, "kind": "cruising_yacht", "switching": "selector"}
        made[name] = anna.post("/api/jobs", asked)["id"]
    patch(anna, made["Tern"], {"state": "proved", "owner": "Owner of the 100% club"})
    patch(anna, made["auk"], {"state": "surveyed", "contact": "berth 14"})
    anna.get("/api/jobs")
    return made


@pytest.mark.parametrize(
    ("asked", "found"),
    [
        ("", ["auk", "Tern", "Skua"]),  # the one changed last first
        ("sort=name", ["auk", "Skua", "Tern"]),
        ("sort=state", ["Skua", "auk", "Tern"]),  # enquiry, surveyed, proved
        ("state=surveyed", ["auk"]),
        ("words=berth+AUK", ["auk"]),
        ("words=100%25", ["Tern"]),  # a sign of patterns is only a sign
        ("words=selector&sort=name", ["auk", "Skua", "Tern"]),  # gear aboard
        ("words=selector+nothing", []),
        ("sort=name&offset=1&limit=1", ["Skua"]),
        ("shelf=archived", []),
        ("shelf=bin", []),
    ],
)
def test_jobs_are_searched_sorted_and_paged(
    anna: Person, three: dict[str, str], asked: str, found: list[str]
) -> None:
    assert names(anna, asked) == found


def test_a_page_knows_how_many_there_are(anna: Person, bo: Person, three: dict[str, str]) -> None:
    assert anna.get("/api/jobs?limit=2").json()["total"] == 3
    assert bo.get("/api/jobs?words=selector").json() == {"jobs": [], "total": 0}
    assert anna.get("/api/jobs?shelf=attic").status_code == 422


def test_the_archive_is_a_shelf_of_its_own(anna: Person, three: dict[str, str]) -> None:
    patch(anna, three["Tern"], {"archived": True})
    assert (names(anna, "sort=name"), names(anna, "shelf=archived")) == (["auk", "Skua"], ["Tern"])
    assert anna.get(f"/api/jobs/{three['Tern']}").json()["state"] == "proved"
    patch(anna, three["Tern"], {"archived": False})
    assert names(anna, "shelf=archived") == []
    wrong = patch(anna, three["Tern"], {"state": "sunk", "name": ""}, 422)
    assert {e["path"] for e in wrong["errors"]} == {"name", "state"}


def test_a_list_is_read_in_few_queries_however_long(
    anna: Person, three: dict[str, str], django_assert_max_num_queries: Any
) -> None:
    anna.get("/api/jobs")
    with django_assert_max_num_queries(12):
        anna.get("/api/jobs?words=selector&sort=state")


@pytest.mark.parametrize("file", DEMO_FILES)
def test_a_template_assumes_everything(file: str, anna: Person) -> None:
    job = anna.post("/api/jobs/import", (DEMO / file).read_bytes())
    made = anna.post(f"/api/jobs/{job['id']}/template", {"name": "Another"})
    assert [v["name"] for v in made["variants"]] == [v["name"] for v in job["variants"]]
    before, after = (
        json.loads(anna.get(f"/api/jobs/{one['id']}/export").content) for one in (job, made)
    )
    for old, new in zip(before["variants"], after["variants"], strict=True):
        assert all(cable["estimated"] for cable in new["design"]["cables"])
        assert new.get("entries", {}) == {} and not new.get("waivers")
        for was, part in zip(old["design"]["components"], new["design"]["components"], strict=True):
            known = {k for k in ("rated_a", "rating_a", "unit_ah", "set_v") if part.get(k)}
            assert known <= set(part["assumed"])
            assert {k: part.get(k) for k in known} == {k: was.get(k) for k in known}
    survey = after["survey"]
    assert not any(survey.get(name) for name in ("resting", "measurements", "counted"))
    assert not any(run.get("measured", True) for run in survey.get("runs", ()))
    assert anna.get(f"/api/variants/{made['variants'][0]['id']}/findings").status_code == 200


def test_a_variant_at_the_size_of_a_stamp(anna: Person, variant: Variant) -> None:
    drawn = anna.get(url(variant, "sketch.svg"))
    assert drawn["Content-Type"] == "image/svg+xml"
    parts = len(scheme(anna, variant)["positive"]["boxes"])
    assert drawn.content.count(b"<rect") == parts and b"<text" not in drawn.content
