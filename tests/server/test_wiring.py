"""Rewiring over the wire: edits, parked cables, patterns with advice, comparison."""

from __future__ import annotations

import pytest
from apps.jobs.models import Job, Variant

from tests.server.conftest import Person
from tests.server.test_jobs import scheme, send, url


def edit(person: Person, variant: Variant, base: int, what: str, at: str, kind: str) -> object:
    body = {"base_revision": base, "edit": what, "at": at, "kind": kind}
    return person.post(url(variant, "edit"), body)


def test_what_can_be_done_with_what_is_picked(anna: Person, variant: Variant) -> None:
    of_cable = anna.get(url(variant, "edits") + "?cable=solar_house").json()
    assert {"fuse", "switch", "bus_bar"} <= {c["kind"] for c in of_cable["insert"]}
    assert "protection" not in {c["kind"] for c in of_cable["insert"]}
    assert all(c["words"] for c in of_cable["insert"])
    of_part = anna.get(url(variant, "edits") + "?part=selector").json()
    assert next(c["kind"] for c in of_part["swap"]) == "dual_switch"
    [common] = [p for p in of_part["posts"] if p["post"] == "selector.common"]
    assert len(common["stack"]) == 2 and common["gathers"] is False
    nothing = anna.get(url(variant, "edits") + "?cable=none&part=none").json()
    assert (nothing["insert"], nothing["posts"]) == ([], [])


def test_put_in_swap_park_land_and_undo(anna: Person, variant: Variant) -> None:
    anna.post(
        url(variant, "edit"),
        {
            "base_revision": 1,
            "edit": "insert",
            "at": "solar_house",
            "kind": "fuse",
        },
    )
    assert scheme(anna, variant)["can_undo"] == "Put in Fuse 1"
    edit(anna, variant, 2, "swap", "selector", "relay")
    swapped = scheme(anna, variant)
    parked = swapped["design"]["parked"]
    assert len(parked) == 2 and all(c["start"] is None for c in parked)
    assert swapped["can_undo"].endswith("2 cables parked")
    one = parked[0]["id"]
    posts = anna.get(url(variant, "landing") + f"?cable={one}&end=start").json()["posts"]
    assert "house_bank.pos" in posts
    land = {"type": "land_parked", "cable": one, "end": "start", "to": "house_bank.pos"}
    landed = send(anna, variant, 3, land)
    assert [c["id"] for c in landed["design"]["parked"]] == [parked[1]["id"]]
    back = anna.post(url(variant, "undo"), {"base_revision": 4})
    assert len(back["design"]["parked"]) == 2
    # A design with parked cables is solved as it stands: they carry nothing.
    solved = anna.post(url(variant, "bench"), {"engine": "on"})
    assert one not in solved["point"]["conductor_a"]


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"edit": "insert", "at": "no_cable", "kind": "fuse"}, "there is no cable 'no_cable'"),
        ({"edit": "insert", "at": "solar_house", "kind": "bank"}, "goes in no cable"),
        ({"edit": "swap", "at": "house_bank", "kind": "fuse"}, "cannot be swapped"),
        ({"edit": "gather", "at": "solar.pos", "kind": "bus_bar"}, "at least two cables"),
        ({"edit": "weld", "at": "solar.pos", "kind": "bus_bar"}, "insert"),
    ],
)
def test_edits_that_cannot_be(
    anna: Person, variant: Variant, body: dict[str, object], words: str
) -> None:
    told = anna.post(url(variant, "edit"), body | {"base_revision": 1}, 422)
    assert words in str(told)
    assert variant.revisions.count() == 1


def test_the_order_on_a_stud(anna: Person, variant: Variant) -> None:
    [common] = [
        p
        for p in anna.get(url(variant, "edits") + "?part=selector").json()["posts"]
        if p["post"] == "selector.common"
    ]
    turned = common["stack"][::-1]
    send(anna, variant, 1, {"type": "stack_cables", "post": "selector.common", "cables": turned})
    after = anna.get(url(variant, "edits") + "?part=selector").json()["posts"]
    assert next(p["stack"] for p in after if p["post"] == "selector.common") == turned


def test_advice_preview_and_applying(anna: Person, variant: Variant) -> None:
    found = anna.get(url(variant, "advice")).json()
    marks = [a["marks"] for a in found["advice"]]
    assert marks == sorted(marks, reverse=True) and len(marks) > 8
    assert all(a["reasons"] for a in found["advice"])
    assert "confirm in the edition in force" in found["confirm"]
    assert all(r["why"] for r in found["refused"])
    school = anna.get(url(variant, "advice") + "?first=engine&crew=attentive").json()
    assert [a["pattern"] for a in school["advice"]] != [a["pattern"] for a in found["advice"]]
    first = found["advice"][0]["pattern"]
    preview = anna.get(url(variant, f"patterns/{first}")).json()
    assert preview["differences"] and preview["positive"]["boxes"]
    assert variant.revisions.count() == 1  # looking changes nothing
    applied = anna.post(url(variant, "pattern"), {"base_revision": 1, "pattern": first})
    assert applied["can_undo"] == f"Rewired as: {preview['name']}"
    parts = {p["id"] for p in applied["design"]["components"]}
    assert parts == {p["id"] for p in preview["design"]["components"]}
    undone = anna.post(url(variant, "undo"), {"base_revision": 2})
    assert "selector" in {p["id"] for p in undone["design"]["components"]}


def test_a_pattern_starts_a_variant(anna: Person, variant: Variant) -> None:
    made = anna.post(url(variant, "copy"), {"name": "With a relay", "pattern": "dual_relay"})
    assert {"dual_switch", "relay"} <= {p["kind"] for p in made["design"]["components"]}
    told = anna.post(url(variant, "copy"), {"name": "No", "pattern": "two_engines"}, 422)
    assert "two engine banks" in told["detail"]
    unknown = anna.get(url(variant, "patterns/dual_realy"))
    assert unknown.status_code == 422 and "dual_relay" in unknown.json()["detail"]


def test_two_variants_side_by_side(anna: Person, job: Job, variant: Variant) -> None:
    other = job.variants.get(name="Proposal A")
    found = anna.get(url(variant, f"compare/{other.pk}")).json()
    both = found["comparison"]
    assert {d["how"] for d in both["differences"]} == {"gone", "new", "changed"}
    assert "SW-4" in {f["rule"] for f in both["lost"]}
    assert len(found["points"]) == 2
    missing = anna.get(url(variant, f"compare/{job.pk}"))
    assert missing.status_code == 404
