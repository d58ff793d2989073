"""Designs made by a program: the reference for speed, one of any size, and random ones."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from strom_engine.design import Design, parse_design

__all__ = [
    "Draft",
    "largest_design",
    "reference_design",
    "sized_design",
]

LAWS = ("power", "current", "resistance")


@dataclass
class Draft:
    """A design on its way: parts and cables are added, then it is read as any other document."""

    parts: list[dict[str, Any]] = field(default_factory=list)  # Any: JSON data
    cables: list[dict[str, Any]] = field(default_factory=list)
    profiles: tuple[str, ...] = ("living",)
    extra: dict[str, Any] = field(default_factory=dict)

    def part(self, kind: str, part_id: str, **fields: Any) -> str:
        """Add a part; its name is its id in words."""
        name = part_id.replace("_", " ").capitalize()
        self.parts.append({"kind": kind, "id": part_id, "name": name} | fields)
        return part_id

    def bank(self, part_id: str, **fields: Any) -> str:
        """Add a bank, AGM of 100 Ah unless told otherwise."""
        plain = {"role": "house", "chemistry": "agm", "unit_ah": 100, "soc": 0.7}
        return self.part("bank", part_id, **(plain | fields))

    def load(self, part_id: str, *draws_a: float, law: str = "power", **item: Any) -> str:
        """Add a load group with an item for each draw [A]."""
        profiles = item.pop("profiles", list(self.profiles))
        items = [
            {"id": f"i{n}", "name": f"Item {n}", "draw_a": a, "law": law, "profiles": profiles}
            | item
            for n, a in enumerate(draws_a)
        ]
        return self.part("loads", part_id, items=items)

    def cable(self, start: str, end: str, gauge: str = "1/0 AWG", length_m: float = 1.0) -> str:
        """Run a cable."""
        name = f"c{len(self.cables)}"
        new = {"id": name, "start": start, "end": end, "length_m": length_m, "gauge": gauge}
        self.cables.append(new)
        return name

    def design(self) -> Design:
        """Read it, with everything checked."""
        profiles = [{"id": p, "name": p.capitalize()} for p in self.profiles]
        raw = {"profiles": profiles, "components": self.parts, "cables": self.cables}
        return parse_design(raw | self.extra)


def reference_design() -> Design:
    """3 banks, a selector, a relay, 5 sources, 25 loads in 5 groups: about 40 nodes."""
    return _three_banks(groups=5, items=5).design()


def largest_design() -> Design:
    """Six banks, twelve pieces of gear between them, 40 loads in ten groups: the largest drawn."""
    draft = Draft()
    draft.part("bus_bar", "minus_bar", polarity="neg", studs=24)
    draft.part("bus_bar", "second_minus_bar", polarity="neg", studs=24)
    roles = ("engine", "engine", "house", "thruster", "other", "other")
    for n, role in enumerate(roles):
        bank = draft.bank(f"bank_{n}", role=role, unit_ah=90 + 10 * n)
        draft.part("switch", f"switch_{n}", position="on")
        draft.cable(f"{bank}.pos", f"switch_{n}.a")
        draft.cable(f"{bank}.neg", f"minus_bar.s{n + 1}")
    relay = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30}
    for n, (giver, taker) in enumerate(((2, 0), (2, 1), (2, 3), (2, 4))):
        draft.part("relay", f"relay_{n}", **relay)
        draft.cable(f"bank_{giver}.pos", f"relay_{n}.a", "2 AWG")
        draft.cable(f"relay_{n}.b", f"bank_{taker}.pos", "2 AWG")
        draft.cable(f"relay_{n}.neg", f"minus_bar.s{n + 8}", "16 AWG")
    draft.part("dcdc", "converter", limit_a=30, set_v=14.2)
    draft.cable("bank_2.pos", "converter.in", "2 AWG")
    draft.cable("converter.out", "bank_5.pos", "2 AWG")
    draft.cable("converter.neg", "minus_bar.s13", "2 AWG")
    draft.part("switch", "parallel", purpose="parallel")
    draft.cable("switch_0.b", "parallel.a")
    draft.cable("parallel.b", "switch_1.b")
    for n in range(2):
        draft.part("starter", f"starter_{n}", cranking_a=300)
        draft.part("alternator", f"alternator_{n}", rated_a=90, set_v=14.3)
        draft.cable(f"switch_{n}.b", f"starter_{n}.pos")
        draft.cable(f"alternator_{n}.out", f"bank_{n}.pos", "2 AWG")
        draft.cable(f"starter_{n}.neg", f"minus_bar.s{n + 14}")
        draft.cable(f"alternator_{n}.neg", f"minus_bar.s{n + 16}", "2 AWG")
    for n in range(10):
        name = draft.load(f"panel_{n}", 1.0, 2.0, 0.5, 3.0)
        home = (2, 2, 2, 2, 3, 4, 5, 2, 4, 5)[n]
        draft.cable(f"switch_{home}.b", f"{name}.pos", "8 AWG")
        draft.cable(f"{name}.neg", f"second_minus_bar.s{n + 1}", "8 AWG")
    draft.cable("minus_bar.s24", "second_minus_bar.s24")
    draft.part("charger", "charger", outputs=3, rated_a=60, set_v=14.4, float_v=13.5)
    draft.part("solar", "solar", panel_w=400, set_v=14.3)
    for n, charged in enumerate((2, 0, 3), start=1):
        draft.cable(f"charger.out{n}", f"bank_{charged}.pos", "6 AWG")
    draft.cable("charger.neg", "minus_bar.s20", "6 AWG")
    draft.cable("solar.pos", "bank_2.pos", "8 AWG")
    draft.cable("solar.neg", "minus_bar.s21", "8 AWG")
    return draft.design()


def sized_design(nodes: int) -> Design:
    """The reference with as many load groups, each on cables of its own, as make ``nodes``."""
    small = Draft()
    small.bank("engine_bank", role="engine", soc=0.95)
    small.part("alternator", "alternator", rated_a=80, set_v=14.2)
    small.cable("engine_bank.pos", "alternator.out")
    small.cable("engine_bank.neg", "alternator.neg")
    draft, spare = (small, nodes - 4) if nodes < 40 else (_three_banks(0, 5), nodes - 32)
    for n in range(max(0, spare // 2)):
        name = draft.load(f"load_{n}", 0.8 + 0.1 * n % 3, law=LAWS[n % 3])
        draft.cable("engine_bank.pos", f"{name}.pos", "10 AWG", 2.0)
        draft.cable("engine_bank.neg", f"{name}.neg", "10 AWG", 2.0)
    return draft.design()


def _three_banks(groups: int, items: int) -> Draft:
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_ah=90, unit_cca_a=700, soc=0.96)
    draft.bank("house_bank", unit_ah=120, parallel=3, soc=0.55)
    draft.bank("bow_bank", role="thruster", unit_ah=80, soc=0.9)
    draft.part("alternator", "alternator", rated_a=110, set_v=14.3)
    draft.part("alternator", "second_alternator", rated_a=60, set_v=14.2)
    draft.part("charger", "charger", outputs=3, rated_a=50, set_v=14.4, float_v=13.5)
    draft.part("solar", "solar", panel_w=300, set_v=14.3)
    draft.part("solar", "arch_solar", panel_w=120, controller="pwm", set_v=14.1)
    draft.part("selector", "selector", make_before_break=True, position="1")
    relay = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30}
    draft.part("relay", "relay", **relay)
    draft.part("starter", "starter", cranking_a=300)
    draft.part("bus_bar", "plus_bar", polarity="pos", studs=20)
    draft.part("bus_bar", "minus_bar", polarity="neg", studs=24)
    for bank in ("engine_bank", "house_bank"):
        draft.part("fuse", f"{bank}_fuse", rating_a=250)
        draft.cable(f"{bank}.pos", f"{bank}_fuse.a")
    pairs = [
        ("engine_bank_fuse.b", "selector.one"),
        ("house_bank_fuse.b", "selector.two"),
        ("selector.common", "starter.pos"),
        ("starter.pos", "alternator.out"),
        ("house_bank.pos", "second_alternator.out"),
        ("engine_bank.pos", "relay.a"),
        ("house_bank.pos", "relay.b"),
        ("selector.common", "plus_bar.s1"),
        ("charger.out1", "engine_bank.pos"),
        ("charger.out2", "house_bank.pos"),
        ("charger.out3", "bow_bank.pos"),
        ("solar.pos", "house_bank.pos"),
        ("arch_solar.pos", "house_bank.pos"),
    ]
    negatives: tuple[str, ...] = (
        "engine_bank",
        "house_bank",
        "bow_bank",
        "alternator",
        "second_alternator",
    )
    negatives += ("charger", "solar", "arch_solar", "relay", "starter")
    pairs += [(f"{p}.neg", f"minus_bar.s{n + 1}") for n, p in enumerate(negatives)]
    for n in range(groups):
        name = draft.load(f"panel_{n}", *(0.6 + 0.3 * k for k in range(items)), law=LAWS[n % 3])
        pairs += [(f"plus_bar.s{n + 2}", f"{name}.pos"), (f"{name}.neg", f"minus_bar.s{n + 11}")]
    for start, end in pairs:
        draft.cable(start, end, "2 AWG", 1.5)
    return draft
