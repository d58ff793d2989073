"""Named changes of whole parts: add, take out, set figures, choose a bank, change the volts."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, ValidationError

from strom_engine.design.choices import BatteryChemistry, CableEnd, SystemVolts, UnitVolts
from strom_engine.design.document import Cable, Design
from strom_engine.design.fields import (
    AmpHours,
    Amps,
    FieldValue,
    Frozen,
    Identifier,
    Kilograms,
    PostRef,
)
from strom_engine.design.figure_words import label_of, value_words
from strom_engine.design.named import part_named
from strom_engine.design.parts import Bank, Component, Staged
from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.design.volts import VOLT_FIELDS, at_system_v
from strom_engine.errors import ChangeError, Problem
from strom_engine.reference import device_type

__all__ = [
    "AddPart",
    "ChooseBank",
    "PartChange",
    "Relanding",
    "RemovePart",
    "SetPart",
    "SetSystemVolts",
    "apply_part_change",
    "part_change_words",
    "part_touched",
]


class Relanding(Frozen):
    """An end of a cable that goes to another post when a part is put in its way."""

    cable: Identifier
    end: CableEnd
    to: PostRef


class AddPart(Frozen):
    """Put a part aboard, with the cables that land it and those that now end on it."""

    type: Literal["add_part"] = "add_part"
    part: Component
    cables: Annotated[tuple[Cable, ...], Field(max_length=24)] = ()
    relandings: Annotated[tuple[Relanding, ...], Field(max_length=24)] = ()


class RemovePart(Frozen):
    """Take a part out, with the cables that end on it."""

    type: Literal["remove_part"] = "remove_part"
    part: Identifier


class SetPart(Frozen):
    """Set figures of a part; what is set has been read and is assumed no more."""

    type: Literal["set_part"] = "set_part"
    part: Identifier
    fields: Mapping[str, FieldValue]  # checked as part of the whole


class ChooseBank(Frozen):
    """Make a bank of other batteries."""

    type: Literal["choose_bank"] = "choose_bank"
    bank: Identifier
    chemistry: BatteryChemistry
    unit_v: UnitVolts
    unit_ah: AmpHours
    unit_cca_a: Amps | None = None
    unit_weight_kg: Kilograms | None = None
    series: Annotated[int, Field(ge=1, le=8)]
    parallel: Annotated[int, Field(ge=1, le=12)]


class SetSystemVolts(Frozen):
    """Another system voltage: banks in more or fewer series, set voltages in proportion."""

    type: Literal["set_system_volts"] = "set_system_volts"
    system_v: SystemVolts


PartChange = AddPart | RemovePart | SetPart | ChooseBank | SetSystemVolts
_PART: TypeAdapter[Any] = TypeAdapter(Component)  # Any: a union pydantic resolves by kind


def part_touched(change: PartChange) -> frozenset[str]:
    """Parts and cables a change is about."""
    match change:
        case AddPart():
            ids = [c.id for c in change.cables] + [r.cable for r in change.relandings]
            return frozenset({change.part.id, *(f"cable {cable}" for cable in ids)})
        case ChooseBank():
            return frozenset({change.bank})
        case SetSystemVolts():
            return frozenset({"system volts"})
        case SetPart() | RemovePart():
            return frozenset({change.part})


def part_change_words(design: Design, change: PartChange) -> str:
    """A change in words; ``design`` is the one it is applied to."""
    match change:
        case AddPart():
            rating = getattr(change.part, "rating_a", None)
            kind = _device(change.part)
            what = f", {kind}{rating:g} A" if kind and rating else ""
            return f"Put in {change.part.name}{what}"
        case RemovePart():
            part = part_named(design, change.part)
            count = len(_cables_of(design, part.id))
            return f"Took out {part.name}" + (f" and its {count} cables" if count else "")
        case SetPart():
            part = part_named(design, change.part)
            told = [
                _figure_words(part, name, value)
                for name, value in change.fields.items()
                if len(change.fields) == 1 or getattr(part, name, None) != value
            ]
            return f"{part.name}: {', '.join(told)}"
        case ChooseBank():
            bank = part_named(design, change.bank)
            was = _bank_words(bank) if isinstance(bank, Bank) else "?"
            return f"{bank.name}: {was} to {_bank_words(change)}"
        case SetSystemVolts():
            return f"System voltage {design.system_v} V to {change.system_v} V"


def apply_part_change(design: Design, change: PartChange) -> Design:
    """The design after a change, not yet checked as a whole."""
    match change:
        case AddPart():
            if change.part.id in design.by_id:
                text = f"there is already a part {change.part.id!r}"
                raise ChangeError(text, (Problem("part.id", text),))
            return design.replace_unchecked(
                components=(*design.components, at_system_v(change.part, design.system_v)),
                cables=(*_relanded(design, change.relandings), *change.cables),
            )
        case RemovePart():
            part = part_named(design, change.part)
            gone = {c.id for c in _cables_of(design, part.id)}
            return design.replace_unchecked(
                components=tuple(
                    _without_link(p, part.id) for p in design.components if p.id != part.id
                ),
                cables=tuple(c for c in design.cables if c.id not in gone),
            )
        case SetPart():
            return _with_fields(design, change.part, change.fields, "fields")
        case ChooseBank():
            fields = change.model_dump(exclude={"type", "bank"})
            new = {"unit_resistance_ohm": None, "age_years": 0.0, "members_alike": True}
            new |= {"unit_mca_a": None, "unit_tested_cca_a": None}
            return _with_fields(design, change.bank, fields | new, "bank")
        case SetSystemVolts():
            ratio = change.system_v / design.system_v
            parts = tuple(_at_volts(p, change.system_v, ratio) for p in design.components)
            return design.replace_unchecked(system_v=change.system_v, components=parts)


def _relanded(design: Design, relandings: tuple[Relanding, ...]) -> tuple[Cable, ...]:
    cables = dict(design.cables_by_id)
    for n, one in enumerate(relandings):
        if one.cable not in cables:
            text = f"there is no cable {one.cable!r}{suggest(one.cable, cables)}"
            raise ChangeError(text, (Problem(f"relandings[{n}].cable", text),))
        cables[one.cable] = cables[one.cable].model_copy(update={one.end: one.to})
    return tuple(cables.values())


def _cables_of(design: Design, part_id: str) -> list[Cable]:
    return [c for c in design.cables if part_id in (c.start.part, c.end.part)]


def _without_link(part: Component, gone: str) -> Component:
    links = ("field_contact_of", "temperature_sensor")
    lost = {name: None for name in links if getattr(part, name, None) == gone}
    return part.model_copy(update=lost) if lost else part


def _with_fields(design: Design, part_id: str, fields: Mapping[str, Any], at: str) -> Design:
    part = part_named(design, part_id)
    fixed = {"id", "kind"} & set(fields)
    if fixed:
        problems = tuple(Problem(f"{at}.{name}", "cannot be changed") for name in sorted(fixed))
        raise ChangeError("this cannot be changed", problems)
    raw = {**part.model_dump(mode="json"), **fields}
    if "assumed" not in fields:
        raw["assumed"] = [name for name in part.assumed if name not in fields]
    try:
        new: Component = _PART.validate_python(raw)
    except ValidationError as error:
        found = tuple(
            Problem(f"{at}.{p.path.removeprefix(f'{part.kind}.')}", p.message)
            for p in problems_from_pydantic(error)
        )
        raise ChangeError(f"{part.name}: {found[0].message}", found) from None
    return design.replace_unchecked(
        components=tuple(new if p.id == part_id else p for p in design.components)
    )


def _at_volts(part: Component, system_v: int, ratio: float) -> Component:
    was_v = system_v / ratio
    update: dict[str, object] = {
        name: round(getattr(part, name) * ratio, 3)
        for name in VOLT_FIELDS
        if getattr(part, name, None) is not None and _belongs(getattr(part, name), was_v)
    }
    if isinstance(part, Staged) and part.tempco_mv_per_k is not None and "set_v" in update:
        update["tempco_mv_per_k"] = part.tempco_mv_per_k * ratio
    if isinstance(part, Bank) and part.nominal_v == was_v:
        unit_v = part.unit_v if system_v % part.unit_v == 0 else 12
        update = {"unit_v": unit_v, "series": system_v // unit_v}
    return part.model_copy(update=update)


def _belongs(volts: float, system_v: float) -> bool:
    """Whether a figure stands for this system voltage, not for another one beside it."""
    return 0.7 * system_v < volts < 1.4 * system_v


def _bank_words(bank: Bank | ChooseBank) -> str:
    count = bank.series * bank.parallel
    return f"{count} × {bank.unit_v} V {bank.unit_ah:g} Ah {bank.chemistry.replace('_', ' ')}"


def _device(part: Component) -> str:
    kind = device_type(getattr(part, "device", ""))
    return f"{kind.label}, " if kind else ""


def _figure_words(part: Component, name: str, value: object) -> str:
    """A figure in words: what it is, what it was, what it becomes, with its unit."""
    was = value_words(part.kind, name, getattr(part, name, None))
    return f"{label_of(part.kind, name)} {was} to {value_words(part.kind, name, value)}"
