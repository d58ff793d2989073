"""Named changes: the only way a design changes. Typed, checked as a whole, told in words."""

from __future__ import annotations

from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field, StringConstraints, TypeAdapter, ValidationError

from strom_engine.design.cable_changes import (
    SetCables,
    apply_cable_fields,
    cable_fields_words,
)
from strom_engine.design.choices import CableEnd, RelaySensing
from strom_engine.design.document import Cable, Design
from strom_engine.design.fields import Frozen, Identifier, LengthM, PostRef
from strom_engine.design.landing import landing_posts
from strom_engine.design.named import cable_named
from strom_engine.design.part_changes import (
    PartChange,
    apply_part_change,
    part_change_words,
    part_touched,
)
from strom_engine.design.parts import Component, Relay, Selector
from strom_engine.design.rewiring import (
    ApplyScheme,
    LandParked,
    ParkEnd,
    StackCables,
    SwapPart,
    WiringChange,
    apply_wiring_change,
    tidied,
    wiring_touched,
    wiring_words,
)
from strom_engine.design.validation import design_problems, problems_from_pydantic, suggest
from strom_engine.errors import ChangeError, Problem

__all__ = [
    "CHANGE_TYPES",
    "AddCable",
    "Change",
    "MoveCableEnd",
    "OneChange",
    "RemoveCable",
    "SetCableGauge",
    "SetCableLength",
    "SetFieldContact",
    "SetRelaySensing",
    "Several",
    "apply_change",
    "change_from",
    "change_words",
    "touched",
]


class MoveCableEnd(Frozen):
    """Land one end of a cable on another post."""

    type: Literal["move_cable_end"] = "move_cable_end"
    cable: Identifier
    end: CableEnd
    to: PostRef


class AddCable(Frozen):
    """Run a new cable."""

    type: Literal["add_cable"] = "add_cable"
    cable: Cable


class RemoveCable(Frozen):
    """Take a cable out."""

    type: Literal["remove_cable"] = "remove_cable"
    cable: Identifier


class SetCableGauge(Frozen):
    """Replace a cable by one of another size."""

    type: Literal["set_cable_gauge"] = "set_cable_gauge"
    cable: Identifier
    gauge: str


class SetCableLength(Frozen):
    """Put in the length of a cable, measured on the cable itself or estimated."""

    type: Literal["set_cable_length"] = "set_cable_length"
    cable: Identifier
    length_m: LengthM
    estimated: bool = False


class SetFieldContact(Frozen):
    """Lead an alternator's field through the contact of a selector, or no longer."""

    type: Literal["set_field_contact"] = "set_field_contact"
    selector: Identifier
    alternator: Identifier | None


class SetRelaySensing(Frozen):
    """Choose which posts a relay watches."""

    type: Literal["set_relay_sensing"] = "set_relay_sensing"
    relay: Identifier
    sensing: RelaySensing


OneChange = (
    MoveCableEnd
    | AddCable
    | RemoveCable
    | SetCableGauge
    | SetCableLength
    | SetFieldContact
    | SetRelaySensing
    | SetCables
    | PartChange
    | WiringChange
)


class Several(Frozen):
    """Changes that are made, and undone, together; ``words`` say what for."""

    type: Literal["several"] = "several"
    words: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    changes: Annotated[
        tuple[Annotated[OneChange, Field(discriminator="type")], ...],
        Field(min_length=1, max_length=600),
    ]


Change = Annotated[OneChange | Several, Field(discriminator="type")]
P = TypeVar("P", Selector, Relay)
_CHANGE: TypeAdapter[Any] = TypeAdapter(Change)  # Any: a union pydantic resolves by type
CHANGE_TYPES = tuple(sorted(_CHANGE.json_schema()["discriminator"]["mapping"]))


def change_from(raw: object) -> Change:
    """Read a change from JSON data; raises ChangeError with every problem.

    Args:
        raw: what JSON gave.

    Returns:
        A named change; whether it fits a design is not yet asked.
    """
    try:
        change: Change = _CHANGE.validate_python(raw)
    except ValidationError as error:
        raise ChangeError("not a change", tuple(problems_from_pydantic(error))) from None
    return change


def touched(change: Change) -> frozenset[str]:
    """Parts and cables a change is about; two changes that share none do not clash.

    Args:
        change: a named change.

    Returns:
        Ids, and fields as ``id.field``.
    """
    if isinstance(change, SetFieldContact):
        return frozenset({change.selector})
    if isinstance(change, SetRelaySensing):
        return frozenset({change.relay})
    if isinstance(change, PartChange):
        return part_touched(change)
    if isinstance(change, WiringChange):
        return wiring_touched(change)
    if isinstance(change, SetCables):
        return frozenset(f"cable {row.cable}" for row in change.rows)
    if isinstance(change, Several):
        return frozenset().union(*(touched(one) for one in change.changes))
    cable = change.cable.id if isinstance(change, AddCable) else change.cable
    return frozenset({f"cable {cable}"})


def change_words(design: Design, change: Change) -> str:
    """A change in words, for the history; ``design`` is the one it is applied to.

    Args:
        design: the one it is applied to.
        change: a named change.

    Returns:
        One sentence without a full stop.
    """
    match change:
        case MoveCableEnd():
            cable = cable_named(design, change.cable)
            was = getattr(cable, change.end)
            kept = cable.end if change.end == "start" else cable.start
            return (
                f"Moved the cable from {design.post_name(kept)}: "
                f"off {design.post_name(was)}, onto {design.post_name(change.to)}"
            )
        case AddCable():
            new = change.cable
            return (
                f"Ran {new.gauge} from {design.post_name(new.start)} to {design.post_name(new.end)}"
            )
        case RemoveCable():
            if any(c.id == change.cable for c in design.parked):
                return "Took out a parked cable"
            return f"Took out the cable {design.cable_name(cable_named(design, change.cable))}"
        case SetCableGauge():
            cable = cable_named(design, change.cable)
            return f"{design.cable_name(cable)}: {cable.gauge} to {change.gauge}"
        case SetCableLength():
            cable = cable_named(design, change.cable)
            how = "estimated" if change.estimated else "measured"
            return f"{design.cable_name(cable)}: {change.length_m:g} m long, {how}"
        case SetFieldContact(alternator=None):
            return f"Took the field contact of {design.by_id[change.selector].name} out of use"
        case SetFieldContact():
            contact = f"the field contact of {design.by_id[change.selector].name}"
            return f"Led the field of {design.by_id[str(change.alternator)].name} through {contact}"
        case SetRelaySensing():
            sides = {"dual": "both sides", "a": "side a", "b": "side b"}[change.sensing]
            return f"{design.by_id[change.relay].name} now senses {sides}"
        case SetCables():
            return cable_fields_words(design, change)
        case Several():
            return change.words
        case ParkEnd() | LandParked() | SwapPart() | StackCables() | ApplyScheme():
            return wiring_words(design, change)
        case _:
            return part_change_words(design, change)


def apply_change(design: Design, change: Change) -> Design:
    """The design after a change, checked as a whole; the one given stays as it is.

    Args:
        design: the design it is made on.
        change: a named change, or several together.

    Raises:
        ChangeError: it refers to what is not there, or the design after it would be wrong.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> gone = change_from({"type": "remove_part", "part": "selector"})
    >>> change_words(design, gone)
    'Took out Main selector and its 4 cables'
    >>> "selector" in apply_change(design, gone).by_id
    False
    """
    changed = tidied(_applied(design, change))
    found = design_problems(changed.model_dump(mode="json"))
    if found:
        raise ChangeError(f"the change would break the design: {found[0]}", tuple(found))
    return changed


def _applied(design: Design, change: Change) -> Design:
    match change:
        case MoveCableEnd():
            cable = cable_named(design, change.cable)
            allowed = landing_posts(design, change.cable, change.end)
            if change.to not in allowed:
                text = f"this end cannot land on {change.to!r}{suggest(change.to, allowed)}"
                raise ChangeError(text, (Problem("to", text),))
            return _with_cable(design, cable.model_copy(update={change.end: change.to}))
        case AddCable():
            if change.cable.id in _ids(design):
                text = f"there is already a cable {change.cable.id!r}"
                raise ChangeError(text, (Problem("cable.id", text),))
            return design.replace_unchecked(cables=(*design.cables, change.cable))
        case RemoveCable() if any(c.id == change.cable for c in design.parked):
            return design.replace_unchecked(
                parked=tuple(c for c in design.parked if c.id != change.cable)
            )
        case RemoveCable():
            gone = cable_named(design, change.cable)
            kept = tuple(c for c in design.cables if c.id != gone.id)
            return design.replace_unchecked(cables=kept)
        case SetCableGauge():
            cable = cable_named(design, change.cable)
            return _with_cable(design, cable.model_copy(update={"gauge": change.gauge}))
        case SetCableLength():
            cable = cable_named(design, change.cable)
            update = {"length_m": change.length_m, "estimated": change.estimated}
            return _with_cable(design, cable.model_copy(update=update))
        case SetFieldContact():
            selector = _part(design, change.selector, Selector, "selector")
            contact = {"field_contact_of": change.alternator}
            return _with_part(design, selector.model_copy(update=contact))
        case SetRelaySensing():
            relay = _part(design, change.relay, Relay, "relay")
            return _with_part(design, relay.model_copy(update={"sensing": change.sensing}))
        case SetCables():
            return apply_cable_fields(design, change)
        case Several():
            for one in change.changes:
                design = tidied(_applied(design, one))
            return design
        case ParkEnd() | LandParked() | SwapPart() | StackCables() | ApplyScheme():
            return apply_wiring_change(design, change)
        case _:
            return apply_part_change(design, change)


def _ids(design: Design) -> set[str]:
    return {c.id for c in design.cables} | {c.id for c in design.parked}


def _part(design: Design, part_id: str, kind: type[P], field: str) -> P:
    part = design.by_id.get(part_id)
    if not isinstance(part, kind):
        known = [p.id for p in design.components if isinstance(p, kind)]
        text = f"there is no {field} {part_id!r}{suggest(part_id, known)}"
        raise ChangeError(text, (Problem(field, text),))
    return part


def _with_cable(design: Design, cable: Cable) -> Design:
    return design.replace_unchecked(
        cables=tuple(cable if c.id == cable.id else c for c in design.cables)
    )


def _with_part(design: Design, part: Component) -> Design:
    return design.replace_unchecked(
        components=tuple(part if p.id == part.id else p for p in design.components)
    )
