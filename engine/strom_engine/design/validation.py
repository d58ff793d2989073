"""Reading a document from outside: every problem is collected, with its path."""

from __future__ import annotations

from collections import Counter
from collections.abc import Container, Iterable, Mapping
from difflib import get_close_matches
from typing import Any

from pydantic import TypeAdapter, ValidationError

from strom_engine.design.document import Design
from strom_engine.design.fields import PostRef
from strom_engine.design.parts import KINDS, Component
from strom_engine.design.parts.facts import Counted
from strom_engine.design.sides import shorts
from strom_engine.design.upgrades import DESIGN_CHAIN
from strom_engine.errors import DesignError, Problem

__all__ = [
    "design_problems",
    "parse_design",
    "problems_from_errors",
    "problems_from_pydantic",
    "suggest",
]

# Fields of documents and changes that hold one of several kinds of thing.
TAGGED = ("change", "part", "new")

_COMPONENT: TypeAdapter[Any] = TypeAdapter(Component)  # Any: a union pydantic resolves by kind
# More of a sort than any boat has, and than is computed in good time.
MOST: dict[Counted, int] = {
    "banks": 16,
    "sources": 24,
    "switches": 40,
    "things that share charge": 24,
}


def suggest(wrong: object, known: Iterable[str]) -> str:
    """`` (did you mean ...?)`` when a known word is near, else nothing."""
    near = get_close_matches(str(wrong), list(known), n=1)
    return f" (did you mean {near[0]!r}?)" if near else ""


def parse_design(raw: object) -> Design:
    """Read a design from JSON data; raises DesignError with all problems at once.

    Args:
        raw: what JSON gave.

    Returns:
        The design.
    """
    found = design_problems(raw)
    if found:
        raise DesignError(found)
    return Design.model_validate(raw)


def design_problems(raw: object, at: str = "") -> list[Problem]:
    """All problems of a would-be design; ``at`` is put before every path.

    Args:
        raw: what JSON gave.
        at: put before every path.

    Returns:
        Problems, each with its path; empty when it is a design.
    """
    if not isinstance(raw, Mapping):
        return [Problem(at.rstrip("."), "must be an object")]
    if later := DESIGN_CHAIN.problems(raw, at):
        return later
    raw = DESIGN_CHAIN.brought_up(raw)
    problems: list[Problem] = []
    try:
        Design.model_validate(raw)
    except ValidationError as error:
        problems += problems_from_pydantic(error, at)
    problems += [Problem(at + p.path, p.message) for p in _reference_problems(raw)]
    return problems or _shorts(Design.model_validate(raw), at)


def _shorts(design: Design, at: str) -> list[Problem]:
    """Shorts through the metal of parts, looked for once all else is sound."""
    text = "joins the positive to the negative side through metal: a dead short"
    return [Problem(f"{at}cables", f"{a} to {b} {text}") for a, b in shorts(design)]


def problems_from_pydantic(error: ValidationError, at: str = "") -> list[Problem]:
    """Pydantic's errors as problems with readable paths."""
    return problems_from_errors(error.errors(), at)


def problems_from_errors(
    errors: Iterable[Mapping[str, Any]], at: str = "", tags: Container[object] = KINDS
) -> list[Problem]:
    """The same of pydantic's records of errors; ``tags`` are those of unions in the document.

    Any: pydantic's own error records.
    """
    return [Problem((at + _path(e["loc"], tags)).rstrip("."), _message(dict(e))) for e in errors]


def _path(loc: tuple[int | str, ...], tags: Container[object]) -> str:
    text = ""
    for i, step in enumerate(loc):
        if i and (isinstance(loc[i - 1], int) or loc[i - 1] in TAGGED) and step in tags:
            continue  # the union's tag is not in the document
        text += f"[{step}]" if isinstance(step, int) else f".{step}" if text else str(step)
    return text


def _message(error: dict[str, Any]) -> str:  # Any: pydantic's own error records
    if error["type"] == "union_tag_invalid":
        field, tag = error["ctx"]["discriminator"].strip("'"), error["ctx"]["tag"]
        known = [word.strip(" '") for word in error["ctx"]["expected_tags"].split(",")]
        return f"{field} {tag!r} is unknown{suggest(tag, known)}; known: {', '.join(known)}"
    if error["type"] == "union_tag_not_found":
        return f"{error['ctx']['discriminator'].strip(chr(39))} is missing"
    if error["type"] == "extra_forbidden":
        return "is not a field of this object"
    if error["type"] == "finite_number":
        return "must be a finite number, not NaN or infinity"
    text = str(error["msg"]).removeprefix("Value error, ")
    shown = error.get("input")
    return f"{text}; given: {shown!r}" if isinstance(shown, int | float | str) else text


def _items(raw: Mapping[str, Any], key: str) -> list[tuple[int, Mapping[str, Any]]]:
    listed = raw.get(key)
    if not isinstance(listed, list | tuple):
        return []
    return [(i, item) for i, item in enumerate(listed) if isinstance(item, Mapping)]


def _reference_problems(raw: Mapping[str, Any]) -> list[Problem]:
    """What must agree across the document, found even where other fields are wrong."""
    parts = _items(raw, "components")
    posts: dict[str, str] = {}
    uncertain: set[str] = set()
    nameless = not isinstance(raw.get("components"), list | tuple)
    for _, item in parts:
        try:
            part = _COMPONENT.validate_python(dict(item))
        except ValidationError:
            nameless = nameless or not isinstance(item.get("id"), str)
            uncertain.add(str(item.get("id")))
            continue
        posts |= {f"{part.id}.{post}": polarity for post, polarity in part.posts().items()}
    return [
        *_counts(parts),
        *_duplicates(raw),
        # Which posts there are is not known while a part cannot be told by its id: what would
        # be said of the cables on it then is not what is wrong.
        *(() if nameless else _cable_ends(raw, posts, uncertain)),
        *(() if nameless else _parked(raw, posts)),
        *_links(raw, parts),
    ]


def _counts(parts: list[tuple[int, Mapping[str, Any]]]) -> Iterable[Problem]:
    """Sorts of which there are too many."""
    counts = Counter(str(part.get("kind")) for _, part in parts)
    for words, most in MOST.items():
        count = sum(counts[kind] for kind, part in KINDS.items() if part.facts.counted == words)
        if count > most:
            yield Problem("components", f"{count} {words}; a design has {most} at most")


def _duplicates(raw: Mapping[str, Any]) -> Iterable[Problem]:
    for key, field in (
        ("components", "id"),
        ("components", "name"),
        ("cables", "id"),
        ("parked", "id"),
        ("places", "id"),
        ("profiles", "id"),
    ):
        items = _items(raw, key)
        counts = Counter(str(item.get(field)) for _, item in items if field in item)
        for i, item in items:
            if counts[str(item.get(field))] > 1:
                message = f"{item.get(field)!r} is used {counts[str(item[field])]} times"
                yield Problem(f"{key}[{i}].{field}", f"{message}; it must be unique")


def _cable_ends(
    raw: Mapping[str, Any], posts: dict[str, str], uncertain: set[str]
) -> Iterable[Problem]:
    for i, cable in _items(raw, "cables"):
        ends = [cable.get("start"), cable.get("end")]
        for key, ref in zip(("start", "end"), ends, strict=True):
            if not isinstance(ref, str) or ref in posts or PostRef(ref).part in uncertain:
                continue
            yield Problem(
                f"cables[{i}].{key}",
                f"there is no post {ref!r} in this design{suggest(ref, posts)}",
            )
        sides = {posts[str(ref)] for ref in ends if str(ref) in posts} - {"any"}
        if len(sides) == 2:
            text = f"joins {ends[0]} to {ends[1]}, a positive to a negative post: a dead short"
            yield Problem(f"cables[{i}]", text)
        if ends[0] == ends[1] and isinstance(ends[0], str):
            yield Problem(f"cables[{i}]", f"has both ends on {ends[0]}")


def _parked(raw: Mapping[str, Any], posts: dict[str, str]) -> Iterable[Problem]:
    """Parked cables keep an end at most, on a post that there is, and an id of their own."""
    running = {str(c.get("id")) for _, c in _items(raw, "cables")}
    for i, cable in _items(raw, "parked"):
        ends = [ref for ref in (cable.get("start"), cable.get("end")) if isinstance(ref, str)]
        if len(ends) == 2:
            yield Problem(f"parked[{i}]", "has both ends landed: it belongs among the cables")
        for ref in ends:
            if ref not in posts:
                text = f"there is no post {ref!r} in this design{suggest(ref, posts)}"
                yield Problem(f"parked[{i}]", text)
        if str(cable.get("id")) in running:
            yield Problem(f"parked[{i}].id", f"{cable.get('id')!r} is also a cable in use")


def _links(raw: Mapping[str, Any], parts: list[tuple[int, Mapping[str, Any]]]) -> Iterable[Problem]:
    places = [str(p.get("id")) for _, p in _items(raw, "places")]
    profiles = [str(p.get("id")) for _, p in _items(raw, "profiles")]
    alternators = [str(p.get("id")) for _, p in parts if p.get("kind") == "alternator"]
    banks = [str(p.get("id")) for _, p in parts if p.get("kind") == "bank"]
    for i, part in parts:
        at = f"components[{i}]"
        if isinstance(part.get("place"), str) and part["place"] not in places:
            text = f"there is no place {part['place']!r}{suggest(part['place'], places)}"
            yield Problem(f"{at}.place", text)
        field = part.get("field_contact_of")
        if isinstance(field, str) and field not in alternators:
            text = f"there is no alternator {field!r}{suggest(field, alternators)}"
            yield Problem(f"{at}.field_contact_of", text)
        for name in ("guards", "temperature_sensor"):
            bank = part.get(name)
            if isinstance(bank, str) and bank not in banks:
                text = f"there is no bank {bank!r}{suggest(bank, banks)}"
                yield Problem(f"{at}.{name}", text)
        items = _items(part, "items")
        ids = Counter(str(item.get("id")) for _, item in items)
        for j, item in items:
            if ids[str(item.get("id"))] > 1:
                yield Problem(f"{at}.items[{j}].id", f"{item.get('id')!r} is used more than once")
            wanted = item.get("profiles")
            for name in wanted if isinstance(wanted, list | tuple) else ():
                if name not in profiles:
                    text = f"there is no profile {name!r}{suggest(name, profiles)}"
                    yield Problem(f"{at}.items[{j}].profiles", text)
