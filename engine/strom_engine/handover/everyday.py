"""What lives with everything off, what is normal, how deep each bank may go, fuses and spares."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Bank, Breaker, Fuse, FuseBlock, Relay
from strom_engine.handover.aboard import Aboard
from strom_engine.handover.emergencies import living_with
from strom_engine.handover.line import Line
from strom_engine.reference import BLOCK_V, chemistry
from strom_engine.upkeep.readings import FLOAT_SHARE

__all__ = ["everyday", "fuses"]

LEAD_LIMIT, LITHIUM_LIMIT = 0.5, 0.2  # of the charge: deeper, and it costs years; trade practice
LEAD_NEVER_V = 11.0  # of a 12 V battery under a small load: damage begins


def everyday(aboard: Aboard) -> Iterator[Line]:
    """What lives, what meters show on a sound boat, how deep each bank may go."""
    alive = tuple(dict.fromkeys(living_with(aboard, aboard.way.away)))
    yield (
        Line("lives.with_off", {"names": ", ".join(alive)}, "scheme")
        if alive
        else Line("lives.none")
    )
    result = aboard.bench(aboard.way.away)
    for bank in aboard.banks:
        if result is not None:
            draw_a = max(0.0, -result.point.banks[bank.id].current_a)
            values: dict[str, float | str] = {"bank": bank.name, "amps": draw_a}
            yield Line("normal.standing", values, "scheme")
        if chemistry(bank.chemistry).family == "lead":
            values = {"bank": bank.name, "amps": FLOAT_SHARE * bank.capacity_ah}
            yield Line("normal.float", values, "banks")
        yield _limit(bank)
    for relay in aboard.design.of_type(Relay):
        values = {"name": relay.name, "closes": relay.cut_in_v, "opens": relay.cut_out_v}
        yield Line("lamp.relay", values, "scheme")
    yield Line("ring.when")


def _limit(bank: Bank) -> Line:
    """How deep a bank may go, by share and by rest volts."""
    figures = chemistry(bank.chemistry)
    lithium = figures.family == "lithium"
    share = LITHIUM_LIMIT if lithium else LEAD_LIMIT
    heads = [(h, v) for h, v in zip(figures.heads, figures.rest_v, strict=True) if h <= 1]
    rest_v = min(heads, key=lambda pair: abs(pair[0] - share))[1] * bank.nominal_v / BLOCK_V
    values: dict[str, float | str] = {"bank": bank.name, "share": 100 * share, "volts": rest_v}
    if lithium:
        return Line("limit.lithium", values, "banks")
    values["never"] = LEAD_NEVER_V * bank.nominal_v / BLOCK_V
    return Line("limit.lead", values, "banks")


def fuses(aboard: Aboard) -> Iterator[Line]:
    """Every fuse and breaker with its rating and place, and the spare to keep."""
    places = {p.id: p.name for p in aboard.design.places}
    for part in aboard.design.components:
        place = places.get(part.place or "", "")
        if isinstance(part, Fuse):
            values: dict[str, float | str] = {
                "name": part.name, "amps": part.rating_a, "place": place,
            }  # fmt: skip
            yield Line("fuse.fuse", values, "runs")
        elif isinstance(part, Breaker):
            values = {"name": part.name, "amps": part.rating_a, "place": place}
            yield Line("fuse.breaker", values, "runs")
        elif isinstance(part, FuseBlock):
            ratings = ", ".join(f"{a:g}" for a in part.branch_a)
            yield Line("fuse.block", {"name": part.name, "amps": ratings, "place": place}, "runs")
