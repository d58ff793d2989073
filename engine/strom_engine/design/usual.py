"""Parts with usual figures, all marked as assumed until somebody reads them aboard."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import TypeAdapter, ValidationError

from strom_engine.design.parts import Component
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.design.volts import VOLT_FIELDS, with_defaults_at
from strom_engine.errors import ChangeError

__all__ = ["USUAL", "usual_part"]

# Typical figures of a 12 V system; makers' data as commonly published, the machine's own override.
USUAL: dict[str, dict[str, Any]] = {  # Any: fields of whichever part, checked when it is read
    "bank": {"chemistry": "agm", "unit_ah": 100, "soc": 0.8, "role": "other"},
    "charger": {"outputs": 1, "rated_a": 30, "set_v": 14.4, "float_v": 13.5},
    "solar": {"panel_w": 100, "set_v": 14.4, "float_v": 13.6},
    "generator": {
        "driven_by": "wind",
        "set_v": 14.2,
        "float_v": 13.6,
        "points": [
            {"speed_kn": 6, "current_a": 0},
            {"speed_kn": 12, "current_a": 3},
            {"speed_kn": 20, "current_a": 11},
            {"speed_kn": 30, "current_a": 22},
        ],
    },
    "alternator": {"rated_a": 60, "set_v": 14.3},
    "selector": {"rating_a": 300, "position": "off"},
    "dual_switch": {"rating_a": 350, "position": "on"},
    "switch": {"rating_a": 300, "position": "on"},
    "breaker": {"rating_a": 100},
    "relay": {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30},
    "isolator": {"sort": "silicon", "outputs": 2, "rating_a": 120},
    "dcdc": {"limit_a": 30, "set_v": 14.2, "float_v": 13.6, "start_v": 13.3, "stop_v": 12.8},
    "one_way": {"limit_a": 15, "start_v": 13.2, "stop_v": 12.9},
    "protection": {"rating_a": 250, "high_v": 14.8, "low_v": 11.2},
    "fuse": {"rating_a": 100},
    "fuse_block": {"branch_a": [10, 10, 20, 20]},
    "bus_bar": {"polarity": "pos", "studs": 6},
    "shunt": {"rating_a": 500},
    "starter": {"cranking_a": 250},
    "inverter": {"rated_w": 1500, "idle_w": 12, "cut_out_v": 10.5},
    "loads": {"items": []},
}
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
    """A part of a kind with usual figures; ``own`` fields are known and not assumed.

    Raises ChangeError for a name, a place or figures that no part can have.
    """
    own = own or {}
    scale = system_v / 12
    fields = {k: round(v * scale, 3) if k in VOLT_FIELDS else v for k, v in USUAL[kind].items()}
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
