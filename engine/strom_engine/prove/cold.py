"""Tests before power: what an ohmmeter, eyes and hands find."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit.network import network
from strom_engine.design import Bank, Design, Fuse, FuseBlock
from strom_engine.design.fields import PostRef
from strom_engine.design.parts import Switch
from strom_engine.design.state import battery_switches, position_name, switch_positions
from strom_engine.prove.proving import Draft, look

__all__ = ["cold"]

NEGATIVES_OFF = "Negatives off: an ohmmeter on a live circuit lies, or burns."


def cold(design: Design) -> Iterator[Draft]:
    """Every switch in every position, no short, ratings in holders, lugs, boots."""
    for switch in battery_switches(design):
        yield from _positions(design, switch)
    for bank in design.of_type(Bank):
        yield look(
            f"short:{bank.id}", "cold", f"Nothing between plus and minus of {bank.name}'s leads",
            bank.id, "more than 1 kΩ, every load off",
            how=f"Ohmmeter between the leads of {bank.name}, both off its posts.",
            misses=("a load left on", "a standing draw", "a lead on the wrong post"),
            caution=NEGATIVES_OFF,
        )  # fmt: skip
        yield look(
            f"polarity:{bank.id}", "cold", f"Polarity of {bank.name}'s leads", bank.id,
            "red leads on plus, black or yellow on minus, at both ends",
            misses=("leads swapped: every diode behind them dies",),
        )  # fmt: skip
    for part in design.components:
        if isinstance(part, Fuse):
            yield _rating(part.id, part.name, f"{part.rating_a:g} A")
        elif isinstance(part, FuseBlock):
            rated = ", ".join(f"{amps:g} A" for amps in part.branch_a)
            yield _rating(part.id, part.name, f"{rated}, in this order")
    for place in design.places:
        yield look(
            f"lugs:{place.id}", "cold", f"Lugs and studs in {place.name}", place.id,
            "each crimp tugged, each stud at its torque, largest lug at the seat",
            misses=("a crimp with the wrong die", "a lug with the wrong hole"),
        )  # fmt: skip
    for bank in design.of_type(Bank):
        yield look(
            f"boots:{bank.id}", "cold", f"{bank.name} is held and covered", bank.id,
            "boots on the positives, strapped so that it moves no more than 25 mm",
        )  # fmt: skip


def _rating(part: str, name: str, rated: str) -> Draft:
    return look(
        f"rating:{part}", "cold", f"What is in the holder of {name}", part, rated,
        misses=("a device of another rating was delivered or taken from the box",),
    )  # fmt: skip


def _positions(design: Design, switch: Switch) -> Iterator[Draft]:
    alone = design.replace_unchecked(components=(switch,), cables=())
    for position in switch_positions(switch):
        net = network(alone, {switch.id: position}, frozenset())
        posts = {number: post for post, number in net.nodes.of_post.items()}
        pairs = [f"{_post(posts[c.a])} to {_post(posts[c.b])}" for c in net.conductors]
        joined = f"joined: {', '.join(pairs)}; nothing else" if pairs else "nothing joined"
        yield look(
            f"switch:{switch.id}:{position}", "cold",
            f"{switch.name} at {position_name(switch, position)}", switch.id, joined,
            how="Ohmmeter from post to post.",
            misses=("leads on the wrong posts", "a burnt contact"),
            caution=NEGATIVES_OFF,
        )  # fmt: skip


def _post(ref: str) -> str:
    return PostRef(ref).post.replace("_", " ")
