"""The series of a day: every solved moment, in columns."""

from __future__ import annotations

from array import array
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from strom_engine.batteries import LivingBank, Well2
from strom_engine.dayrun.kernel import Moment
from strom_engine.dayrun.standing import Standing
from strom_engine.design import Bank, Design, LoadGroup

__all__ = ["Recorder", "Recording"]


@dataclass(frozen=True)
class Recording:
    """Columns over ``at_s`` [s]; where something jumps, a moment stands twice.

    ``wells`` [Ah] hold charge at hand and bound by bank, ``standing`` the number of what stood
    so, among ``standings``.
    """

    at_s: Sequence[float]
    soc: Mapping[str, Sequence[float]]
    volts_v: Mapping[str, Sequence[float]]
    bank_a: Mapping[str, Sequence[float]]
    source_a: Mapping[str, Sequence[float]]
    loads_a: Sequence[float]
    warmth_c: Mapping[str, Sequence[float]]
    wells: Mapping[str, tuple[Sequence[float], Sequence[float]]]
    standing: Sequence[int]
    standings: Sequence[Standing]


class Recorder:
    """Writes moments down as they come."""

    def __init__(self, design: Design, banks: Mapping[str, LivingBank]) -> None:
        self._banks = banks
        self._sources = [s.id for s in design.sources] + [
            p.id for p in design.components if p.kind == "dcdc"
        ]
        self._loads = [g.id for g in design.of_type(LoadGroup)]
        self._loads += [f"{p.id}.dc" for p in design.components if p.kind == "inverter"]
        alternators = [p.id for p in design.components if p.kind == "alternator"]
        names = [b.id for b in design.of_type(Bank)]
        self.at_s = array("d")
        self.soc = {n: array("d") for n in names}
        self.volts_v = {n: array("d") for n in names}
        self.bank_a = {n: array("d") for n in names}
        self.source_a = {n: array("d") for n in self._sources}
        self.loads_a = array("d")
        self.warmth_c = {n: array("d") for n in alternators}
        self.wells = {n: (array("d"), array("d")) for n in names}
        self.standing = array("l")
        self._numbers: dict[Standing, int] = {}

    def note(self, at_s: float, moment: Moment, standing: Standing) -> None:
        """Write a moment down."""
        kernel, point = moment.kernel, moment.point
        amps, over_v, index = point.amps, point.over_v, kernel.index
        self.at_s.append(at_s)
        for name, bank in self._banks.items():
            wells: Well2 = moment.wells[name]
            i = index[name]
            self.soc[name].append(bank.soc(wells))
            self.volts_v[name].append(over_v[i])
            self.bank_a[name].append(amps[i])
            self.wells[name][0].append(wells[0])
            self.wells[name][1].append(wells[1])
        for name in self._sources:
            at = index.get(name)
            self.source_a[name].append(0.0 if at is None else -amps[at])
        self.loads_a.append(sum(amps[index[n]] for n in self._loads if n in index))
        for name, column in self.warmth_c.items():
            column.append(moment.warmth_c[name])
        self.standing.append(self._numbers.setdefault(standing, len(self._numbers)))

    def recording(self) -> Recording:
        """Everything written down."""
        return Recording(
            at_s=self.at_s,
            soc=self.soc,
            volts_v=self.volts_v,
            bank_a=self.bank_a,
            source_a=self.source_a,
            loads_a=self.loads_a,
            warmth_c=self.warmth_c,
            wells=self.wells,
            standing=self.standing,
            standings=list(self._numbers),
        )
