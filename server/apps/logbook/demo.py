"""The log of the demo's motor-sailer: three years of readings, a weak charge found and cured."""

from __future__ import annotations

import gzip
from datetime import timedelta
from pathlib import Path
from uuid import NAMESPACE_URL, UUID, uuid5

from django.utils import timezone
from strom_engine.design import Bank

from apps.accounts.permissions import Writer
from apps.jobs.documents import surveyed_design
from apps.jobs.models import Variant
from apps.logbook.actions import enter
from apps.logbook.importing import import_rows, take_in
from apps.logbook.models import Record
from apps.logbook.schemas import LogEntryIn

__all__ = ["demo_log"]

DATA = Path(__file__).parent / "demo_data"
# Made by `./strom calc record`; the first with 30 mohm in the negative lead of the alternator.
SEASONS = ("season_2024.csv.gz", "season_2025.csv.gz")
CAPACITY = ((1130, 0.97), (760, 0.93), (400, 0.9), (45, 0.87))  # days ago, share of the label
CRUTCH, FAULT = "crutch", "fault"


def demo_log(variant: Variant) -> None:
    """Enter what a workshop would have entered by now, and take two seasons of records in."""
    _entries(variant)
    for name in SEASONS:
        data = gzip.decompress((DATA / name).read_bytes())
        told = (name.removesuffix(".gz"), "house_bank")
        record = take_in(variant.job, Writer(), _id(variant, name), told, [data])
        layout = record.layout | {"zone": "Europe/Stockholm"}
        Record.objects.filter(pk=record.pk).update(confirmed=True, driven="engine", layout=layout)
        import_rows(str(record.pk))


def _id(variant: Variant, name: str) -> UUID:
    return uuid5(NAMESPACE_URL, f"{variant.pk} log {name}")


def _entries(variant: Variant) -> None:
    house = surveyed_design(variant).by_id["house_bank"]
    assert isinstance(house, Bank)
    now = timezone.now()
    made: list[tuple[int, str, str, str, dict[str, object]]] = [
        (days, f"capacity {days}", "reading", "house_bank", {"reading": {
            "kind": "capacity_ah", "values": [round(share * house.capacity_ah, 1)]}})
        for days, share in CAPACITY
    ]  # fmt: skip
    made += [
        (days, f"rest {days}", "reading", bank, {"reading": {
            "kind": "rest_v", "values": [volts], "rested_h": 12}})
        for days, bank, volts in ((760, "house_bank", 12.62), (400, "house_bank", 12.41),
                                  (45, "house_bank", 12.7), (45, "engine_bank", 12.68))
    ]  # fmt: skip
    made += [
        (430, FAULT, "fault", "alternator", {"fault": {
            "complaint": "House bank is never full after a day under engine",
            "theories": "Regulator, or the bank is old"}}),
        (425, CRUTCH, "setting", "alternator", {"setting": {
            "name": "Engine run at anchor", "old": "1 h a day", "new": "3 h a day",
            "why": "so that the bank gets to the evening", "crutch": True,
            "cause": "volts at the bank are 0.8 V below those at the machine"}}),
        (370, "found", "fault", str(_id(variant, FAULT)), {"fault": {
            "complaint": "House bank is never full after a day under engine",
            "theories": "Regulator, or the bank is old",
            "cause": "Green lug on the alternator's negative: 0.8 V lost at 30 A",
            "cure": "New lead from the alternator's negative to the block, both lugs crimped anew",
            "proof": "14.2 V at the bank an hour after the start"}}),
        (369, "cured fault", "cured", str(_id(variant, FAULT)),
         {"text": "Negative lead renewed; the next season's records show it"}),
        (369, "cured crutch", "cured", str(_id(variant, CRUTCH)),
         {"text": "Lead renewed; an hour of engine is enough again"}),
        (400, "hours", "reading", "first", {"reading": {"kind": "engine_h", "values": [1842]}}),
        (400, "belt", "done", "belt", {"service": {"note": "new belt", "engine_h": 1842}}),
        (395, "torque", "done", "torque", {"service": {"note": "all tight, one lug cleaned"}}),
        (200, "fuses", "done", "fuses", {"service": {"note": "two spares put aboard"}}),
        (45, "bilge", "done", "bilge", {"service": {"note": "both floats lift"}}),
        (45, "hours now", "reading", "first", {"reading": {"kind": "engine_h", "values": [1936]}}),
    ]  # fmt: skip
    enter(
        variant,
        Writer(),
        [
            LogEntryIn.model_validate(
                {
                    "id": _id(variant, name),
                    "kind": kind,
                    "target": target,
                    "at": now - timedelta(days=days),
                    "revision": variant.head,
                    **value,
                }
            )
            for days, name, kind, target, value in sorted(made, key=lambda one: -one[0])
        ],
    )
