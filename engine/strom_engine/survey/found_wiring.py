"""How the banks of a new boat were found switched, and the cables that usually go with it."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design.usual import usual_part
from strom_engine.survey.library import FoundSwitching
from strom_engine.survey.usual_parts import Json

__all__ = ["wiring_found"]

Wire = tuple[str, str, str]  # start, end, size
HEAVY, MACHINE, FEED, SMALL, CONTROL = "1/0 AWG", "4 AWG", "6 AWG", "8 AWG", "16 AWG"


def wiring_found(
    parts: list[Json], switching: FoundSwitching, system_v: int
) -> tuple[list[Json], list[Wire]]:
    """Switches and sharing gear of a way of switching, and every cable with its usual size."""
    boat = _Boat(parts, system_v)
    switches, positives = _WAYS[switching](boat)
    return switches, [*positives, *boat.house_side(), *boat.negatives([*parts, *switches])]


class _Boat:
    """What of a boat's parts wiring asks for."""

    def __init__(self, parts: list[Json], system_v: int) -> None:
        self.system_v = system_v

        def ids(kind: str) -> list[str]:
            return [p["id"] for p in parts if p["kind"] == kind]

        self.banks = ids("bank")
        self.engine_banks = [b for b in self.banks if b != "house_bank"]
        self.starters, self.alternators = ids("starter"), ids("alternator")
        self.blocks = [p["id"] for p in parts if p.get("engine_block")]
        self.own = [p for p in ids("loads") if p != "house_panel"]
        switches = ids("breaker") + ids("switch")
        self.switch_of = {
            load: next(s for s in switches if s.startswith(load)) for load in self.own
        }
        self.sources = ids("charger") + ids("solar")
        self.inverters = ids("inverter")

    def gear(self, kind: str, part_id: str, name: str, place: str, **own: object) -> Json:
        """A part with usual figures, assumed."""
        part = usual_part(kind, part_id, name, self.system_v, place, own)
        return part.model_dump(mode="json", exclude_none=True)

    def switch(self, bank: str) -> Json:
        """The on/off switch of a bank."""
        name = bank.replace("_bank", "")
        words = name.replace("_2", " 2").capitalize()
        return self.gear(
            "switch", f"{name}_switch", f"{words} switch", "battery_box", position="on"
        )

    def starts(self) -> list[tuple[str, str]]:
        """Each starter with the bank that it starts from."""
        banks = self.engine_banks or ["house_bank"]
        return list(zip(banks, self.starters, strict=True))

    def machines(self) -> list[Wire]:
        """Each alternator where it is delivered: on its starter's post."""
        pairs = zip(self.starters, self.alternators, strict=True)
        return [(f"{s}.pos", f"{a}.out", MACHINE) for s, a in pairs]

    def house_side(self) -> Iterator[Wire]:
        """What hangs on the house bank itself: heavy feeds, sources, the inverter."""
        for load in self.own:
            switch = self.switch_of[load]
            yield "house_bank.pos", f"{switch}.a", HEAVY
            yield f"{switch}.b", f"{load}.pos", HEAVY
        for source in self.sources:
            post = "out1" if source == "charger" else "pos"
            yield "house_bank.pos", f"{source}.{post}", SMALL
        for inverter in self.inverters:
            yield "house_bank.pos", f"{inverter}.pos", HEAVY

    def negatives(self, parts: list[Json]) -> Iterator[Wire]:
        """Everything back to one bar, the engines' side by their blocks."""
        free = iter(range(1, 17))
        engines = zip(self.blocks, self.starters, self.alternators, strict=True)
        for n, (block, starter, alternator) in enumerate(engines):
            if self.engine_banks:
                yield f"{self.engine_banks[n]}.neg", f"{block}.s1", HEAVY
            yield f"{block}.s2", f"neg_bar.s{next(free)}", HEAVY
            yield f"{starter}.neg", f"{block}.s3", HEAVY
            yield f"{alternator}.neg", f"{block}.s4", MACHINE
        yield "house_bank.neg", f"neg_bar.s{next(free)}", HEAVY
        yield "house_panel.neg", f"neg_bar.s{next(free)}", FEED
        for load in (*self.own, *self.inverters):
            yield f"{load}.neg", f"neg_bar.s{next(free)}", HEAVY
        for source in self.sources:
            yield f"{source}.neg", f"neg_bar.s{next(free)}", SMALL
        for part in parts:
            if part["kind"] == "relay":
                yield f"{part['id']}.neg", f"neg_bar.s{next(free)}", CONTROL


Found = tuple[list[Json], list[Wire]]


def _none(boat: _Boat) -> Found:
    wires = [(f"{bank}.pos", f"{starter}.pos", HEAVY) for bank, starter in boat.starts()]
    return [], [*wires, ("house_bank.pos", "house_panel.pos", FEED), *boat.machines()]


def _on_off_each(boat: _Boat) -> Found:
    switches = [boat.switch(bank) for bank in boat.banks]
    behind = {bank: switch["id"] for bank, switch in zip(boat.banks, switches, strict=True)}
    wires = [(f"{bank}.pos", f"{behind[bank]}.a", HEAVY) for bank in boat.banks]
    wires += [(f"{behind[bank]}.b", f"{s}.pos", HEAVY) for bank, s in boat.starts()]
    wires.append((f"{behind['house_bank']}.b", "house_panel.pos", FEED))
    return switches, [*wires, *boat.machines()]


def _selector(boat: _Boat) -> Found:
    switches = [boat.gear("selector", "selector", "Main selector", "helm", position="both")]
    first, *more = boat.engine_banks
    wires = [
        (f"{first}.pos", "selector.one", HEAVY),
        ("house_bank.pos", "selector.two", HEAVY),
        ("selector.common", f"{boat.starters[0]}.pos", HEAVY),
        ("selector.common", "house_panel.pos", FEED),
    ]
    for bank, starter in zip(more, boat.starters[1:], strict=False):
        switches.append(boat.switch(bank))
        wires.append((f"{bank}.pos", f"{switches[-1]['id']}.a", HEAVY))
        wires.append((f"{switches[-1]['id']}.b", f"{starter}.pos", HEAVY))
    return switches, [*wires, *boat.machines()]


def _dual_circuit(boat: _Boat) -> Found:
    return [boat.gear("dual_switch", "main_switch", "Main switch", "helm", position="on")], [
        (f"{boat.engine_banks[0]}.pos", "main_switch.engine_in", HEAVY),
        ("house_bank.pos", "main_switch.house_in", HEAVY),
        ("main_switch.engine_out", f"{boat.starters[0]}.pos", HEAVY),
        ("main_switch.house_out", "house_panel.pos", FEED),
        *boat.machines(),
    ]


def _relay(boat: _Boat) -> Found:
    """A switch for each bank, and a combining relay from each engine bank, as fitted later."""
    switches, wires = _on_off_each(boat)
    for n, bank in enumerate(boat.engine_banks):
        name = "relay" if n == 0 else f"relay_{n + 1}"
        words = f"Relay {n + 1}" if n else "Relay"
        switches.append(boat.gear("relay", name, words, "battery_box"))
        wires += [(f"{bank}.pos", f"{name}.a", FEED), ("house_bank.pos", f"{name}.b", FEED)]
    return switches, wires


def _isolator(boat: _Boat) -> Found:
    """A switch for each bank; the alternator feeds both banks through diodes."""
    switches, wires = _on_off_each(boat)
    machine = f"{boat.alternators[0]}.out"
    wires = [w for w in wires if w[1] != machine]
    own = {"sort": "silicon", "outputs": 2}
    switches.append(boat.gear("isolator", "isolator", "Isolator", "engine_space", **own))
    return switches, [
        *wires,
        (machine, "isolator.in", MACHINE),
        ("isolator.out1", f"{boat.engine_banks[0]}.pos", MACHINE),
        ("isolator.out2", "house_bank.pos", MACHINE),
    ]


_WAYS = {
    "selector": _selector,
    "on_off_each": _on_off_each,
    "dual_circuit": _dual_circuit,
    "relay": _relay,
    "isolator": _isolator,
    "none": _none,
}
