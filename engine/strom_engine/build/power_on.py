"""Steps that bring the boat alive again."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from strom_engine.build.actions import Action, Site
from strom_engine.build.cuts import Piece
from strom_engine.build.drafting import ENERGISE, Draft, depths
from strom_engine.build.parts_list import CLIP_EVERY_M
from strom_engine.design import Bank, Fuse, FuseBlock
from strom_engine.design.state import battery_switches
from strom_engine.reference import work_minutes

__all__ = ["power_on"]

FAR = 999


def power_on(site: Site, cuts: Sequence[Piece]) -> Iterator[Draft]:
    chosen = site.chosen
    new = {p.part for p in site.job.parts_by("new")}
    banks = [b for b in chosen.of_type(Bank) if b.id in new or b.id in site.off_banks]
    if not banks:
        return
    step = Draft("on:look", "power on", "Look it over before it lives")
    step.doing = [
        "Tug at every lug; torque on every stud.",
        f"Boots on every positive; clips every {1000 * CLIP_EVERY_M:.0f} mm; no edge without a "
        "grommet.",
        "Ohmmeter: nothing between plus and minus, every switch off, every fuse out.",
        "Polarity of every bank, then of every lead that lands on it.",
    ]
    step.minutes = work_minutes("look_over")
    yield step
    for bank in banks:
        step = Draft(f"on:neg:{bank.id}", "power on", f"{bank.name}: minus on", bank.place)
        step.doing = [f"{bank.name}: its minus leads onto the post, last of all."]
        step.caution = ENERGISE
        step.minutes = work_minutes("negative_on")
        step.actions = [Action("land negative", bank.id, "chosen", (f"{bank.id}.neg",))]
        yield step
    near = depths(chosen)

    def depth(part: Fuse | FuseBlock) -> int:
        return min((near.get(f"{part.id}.{post}", FAR) for post in part.posts()), default=FAR)

    fuses = [p for p in chosen.components if isinstance(p, Fuse | FuseBlock)]
    for key, words, here in (
        ("on:fuses", "Fuses in, the dead end first", [p for p in fuses if depth(p) > 1]),
        ("on:main", "Fuses at the banks in, last", [p for p in fuses if depth(p) <= 1]),
    ):
        step = Draft(key, "power on", words, caution=ENERGISE)
        for part in sorted(here, key=lambda p: -depth(p)):
            rating = f"{part.rating_a:g} A" if isinstance(part, Fuse) else "its fuses"
            step.doing.append(f"{part.name}: {rating} in, cover closed.")
            step.actions.append(Action("put fuse in", part.id))
            step.minutes += work_minutes("fuse_in")
        yield step
    step = Draft("on:switches", "power on", "Switches on, one by one, as Prove says")
    step.doing = [
        "Each switch and breaker on, and volts read behind it.",
        "Panels uncovered, shore lead in, engine last.",
        "A temporary feed off again.",
    ]
    step.minutes = work_minutes("switch_on") * max(1, len(battery_switches(chosen)))
    step.actions = [Action("switches on")]
    yield step
