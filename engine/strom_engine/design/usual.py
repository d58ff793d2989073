"""Parts with usual figures, all marked as assumed until somebody reads them aboard."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import TypeAdapter, ValidationError

from strom_engine.design.parts import Component, facts_of
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.design.volts import VOLT_FIELDS, with_defaults_at
from strom_engine.errors import ChangeError

__all__ = ["usual_part"]

NOT_FIGURES = ("items", "position", "outputs", "series", "polarity", "points", "branch_a", "role")
_PART: TypeAdapter[Any] = TypeAdapter(Component)  # Any: a union pydantic resolves by kind


def usual_part(
    kind: str,
    part_id: str,
    name: str,
    system_v: int,
    place: str | None = None,
    own: Mapping[str, Any] | None = None,
) -> Component:
    """A part of a kind with usual figures, all assumed until somebody reads them aboard.

    Args:
        kind: as in documents.
        part_id, name, place: the part's own.
        system_v: the system's volts [V], with which voltages scale.
        own: fields that are known, and not assumed.

    Raises:
        ChangeError: no part can have such a name, place or figures.

    >>> usual_part("relay", "relay_1", "Relay", 24).cut_in_v
    26.6
    """
    own = own or {}
    scale = system_v / 12
    fields: dict[str, Any] = {  # Any: fields of whichever part, checked when it is read
        k: round(v * scale, 3) if k in VOLT_FIELDS and isinstance(v, float) else v
        for k, v in facts_of(kind).usual.items()
    }
    if kind == "bank":
        fields["series"] = system_v // 12
    assumed = [k for k in fields if k not in NOT_FIGURES and k not in own]
    raw = {"id": part_id, "name": name, "kind": kind, "place": place, "assumed": assumed}
    try:
        part: Component = _PART.validate_python(
            with_defaults_at(raw | fields | dict(own), system_v)
        )
    except ValidationError as error:
        problems = tuple(problems_from_pydantic(error))
        raise ChangeError(f"no such {kind}: {problems[0]}", problems) from None
    return part
