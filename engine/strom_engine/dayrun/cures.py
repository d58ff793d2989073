"""What would mend what a day shows: only what the boat does not have yet."""

from __future__ import annotations

from strom_engine.design import (
    Alternator,
    Bank,
    DcDc,
    Design,
    Isolator,
    MoveCableEnd,
    OneWayCombiner,
    Relay,
)
from strom_engine.design.choices import CableEnd
from strom_engine.design.fields import PostRef

__all__ = ["calmer", "charging_cure", "cooler", "sense_cure", "source_to_house", "start_cure"]

SHARING = (Relay, DcDc, Isolator, OneWayCombiner)
CALMER = {
    "dcdc": "Limit what it takes to less than its source gives, or widen its start and stop.",
    "one_way": "Widen its start and stop, or a stronger source.",
    "inverter": "A bank that sags less, thicker cables, or a higher voltage to come back at.",
    "protection": "Less current than its limits, or sources set lower; look at its settings.",
}


def source_to_house(design: Design) -> MoveCableEnd | None:
    """Move the lead of a charger that lands on the engine bank alone to the house bank."""
    banks = design.of_type(Bank)
    house = next((b for b in banks if b.role == "house"), None)
    small = {f"{b.id}.pos" for b in banks if b.role == "engine"}
    for source in design.sources:
        outs = [f"{source.id}.{post}" for post in source.charging_posts()]
        if isinstance(source, Alternator) or len(outs) > 1 or house is None:
            continue
        for cable in design.cables:
            ends: tuple[tuple[str, CableEnd], ...]
            ends = ((cable.start, "end"), (cable.end, "start"))
            for own, side in ends:
                if own in outs and getattr(cable, side) in small:
                    return MoveCableEnd(cable=cable.id, end=side, to=PostRef.of(house.id, "pos"))
    return None


def calmer(design: Design, part: str) -> str:
    """What calms gear that opens and closes again and again."""
    kind = design.by_id[part].kind
    if kind != "relay":
        return CALMER.get(kind, CALMER["inverter"])
    if source_to_house(design) is not None:
        return "Land the source on the house bank."
    return (
        "No weak source lands on the engine bank: more amps into it, a relay that opens later or "
        "at fewer volts, or a dc-dc charger."
    )


def start_cure(design: Design) -> str:
    """What helps an engine that does not start with what its banks hold."""
    own = any(b.role == "engine" for b in design.of_type(Bank))
    shared = any(isinstance(p, SHARING) for p in design.components)
    if own and shared:
        return "See that the engine bank is full and rests alone; a larger or newer one, or heat."
    if own:
        return "Let charge be shared by a relay or a dc-dc charger, and start on that bank alone."
    return "Keep a bank for the engine alone at rest, and let charge be shared by itself."


def charging_cure(design: Design) -> str:
    """What gives a bank that nothing charged its charge."""
    relays = [r.name for r in design.of_type(Relay)]
    if relays:
        return (
            f"See why {relays[0]} does not close: its sensing post, its negative, its thresholds."
        )
    if design.of_type(DcDc):
        return "See which bank the dc-dc charger serves; the other one wants a way of its own."
    return "Give each bank a way of charging: a relay, a dc-dc charger or an output."


def cooler(part: Alternator) -> str:
    """What keeps an alternator from growing too hot."""
    missing = []
    if not part.temperature_probe:
        missing.append("a temperature probe at its regulator")
    if part.belt_limit_a is None and part.field_limit is None:
        missing.append("a belt or field limit")
    missing.append("a dc-dc charger between")
    text = ", ".join(missing[:-1]) + (" or " if len(missing) > 1 else "") + missing[-1]
    return f"{text[:1].upper()}{text[1:]}."


def sense_cure(design: Design, source: str) -> str:
    """What lets a source fill its bank before it floats."""
    part = design.by_id[source]
    if isinstance(part, Alternator) and part.sensing == "machine":
        return "A regulator that senses at the bank, both leads; thicker cable on both sides."
    if isinstance(part, Alternator):
        landed = {ref for c in design.cables for ref in (c.start, c.end)}
        if not {f"{source}.sense_pos", f"{source}.sense_neg"} <= landed:
            return "Lead both sense wires to the bank, thicker cable on both sides."
    return "Thicker cable on both sides, sense wires to the bank; a longer absorption last."
