"""Rules about lost volts: CO-2, CO-6, CO-7, CO-8, CO-9."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import LoadGroup, LoadItem, Relay, SetPart, Starter
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.runs import detours, paths
from strom_engine.runs.drop import FEEDER_PERCENT, OTHER_PERCENT
from strom_engine.runs.load_cases import low_strains
from strom_engine.runs.paths import CRANKING_DROP_V, GOOD_CRANKING_SHARE, Path
from strom_engine.runs.repairs import widen

__all__ = ["RULES"]

DETOUR_SHARE, DETOUR_PERCENT = 1.5, 1.0  # longer by half and a percent lost; own judgement

CO2 = Rule(
    "CO-2",
    "A circuit loses no more than 3 or 10 percent",
    "Volts lost from the bank through cables, switches and fuses to the load and back, with the "
    "bank at its low end and everything of the busiest profile on.",
    f"ABYC E-11, voltage drop; {CONFIRM}",
    (
        Figure("Feeders, electronics, navigation lights, blowers", FEEDER_PERCENT, "%"),
        Figure("Others", OTHER_PERCENT, "%"),
    ),
)
CO6 = Rule(
    "CO-6",
    "The cranking circuit leaves the starter its volts",
    "Volts lost from the bank to the starter and back while cranking.",
    f"Trade practice; engine makers' manuals decide; {CONFIRM}",
    (
        Figure("Good", GOOD_CRANKING_SHARE * CRANKING_DROP_V, "V at 12 V"),
        Figure("At most", CRANKING_DROP_V, "V at 12 V"),
    ),
)
CO7 = Rule(
    "CO-7",
    "A charging circuit loses no more than 3 percent",
    "Volts lost from every source to every bank it charges and back, the bank half empty.",
    f"ABYC E-11, voltage drop; {CONFIRM}",
    (Figure("Charging", FEEDER_PERCENT, "%"),),
)
CO8 = Rule(
    "CO-8",
    "Every load has its least voltage at its terminals",
    "Volts at each load with its bank at the low end of its window, and while an engine is "
    "started, against what its maker asks for.",
    f"Makers' manuals; {CONFIRM}",
)
CO9 = Rule(
    "CO-9",
    "No circuit takes a detour that costs volts",
    "Length and drop of every circuit as it is run, against a direct run or a remote switch.",
    "Own judgement: half as long again and a percent lost",
    (
        Figure("Longer by", 100 * (DETOUR_SHARE - 1), "%"),
        Figure("Loses more by", DETOUR_PERCENT, "% of the system's volts"),
    ),
)


def _path_finding(context: Context, rule: Rule, path: Path, severity: Severity) -> Finding:
    lost = max(path.steps, key=lambda s: s.drop_v)
    lines = [
        f"{s.name}: {abs(s.current_a):.0f} A, {s.drop_v:.3f} V."
        for s in path.steps
        if s.drop_v > 0.02 * path.drop_v
    ]
    limit = f"{path.limit_v:.2f} V, {path.limit_percent:.1f} % of {path.nominal_v:g} V"
    return Finding(
        rule=rule.id,
        severity=severity,
        title=f"{path.name} loses {path.drop_v:.2f} V, {path.drop_percent:.1f} %",
        arithmetic=(
            *lines,
            f"In all {path.drop_v:.2f} V over {path.length_m:.1f} m ({path.state}); allowed "
            f"{limit} ({path.why}); {path.at_end_v:.2f} V at the end.",
        ),
        figures=(
            Figure("Lost", path.drop_v, "V"),
            Figure("Allowed", path.limit_v, "V"),
            Figure("At the end", path.at_end_v, "V"),
        ),
        limit=limit,
        source=rule.source,
        why="Volts lost on the way are missing where they are needed, with the bank still full.",
        repair=f"Thicker or shorter cable; most is lost in {lost.name}.",
        parts=tuple(dict.fromkeys((path.giver, path.taker))),
        change=widen(context.design, path, context.stock, context.standard),
        estimated=tuple(
            c for c in dict.fromkeys(path.cables) if context.design.cables_by_id[c].estimated
        ),
    )


def supply(context: Context) -> Iterator[Finding]:
    """CO-2: loads."""
    for path in paths(context.design):
        if path.kind == "supply" and not path.kept:
            severe = path.limit_percent <= FEEDER_PERCENT or path.drop_percent > OTHER_PERCENT
            yield _path_finding(context, CO2, path, "fault" if severe else "caution")


def charging(context: Context) -> Iterator[Finding]:
    """CO-7: sources."""
    for path in paths(context.design):
        if path.kind == "charge" and not path.kept:
            yield _path_finding(context, CO7, path, "caution")


def cranking(context: Context) -> Iterator[Finding]:
    """CO-6: starters."""
    for path in paths(context.design):
        if path.kind != "cranking" or path.drop_v <= path.aim_v:
            continue
        yield _path_finding(context, CO6, path, "caution" if path.kept else "fault")


def least_volts(context: Context) -> Iterator[Finding]:
    """CO-8: items below their least voltage, each in the state where it has least."""
    worst: dict[tuple[str, str], tuple[float, str]] = {}
    for load_case in low_strains(context.design):
        for group in context.design.of_type(LoadGroup):
            volts = load_case.point.loads[group.id].volts_v
            on = {i.id for i in load_case.point.loads[group.id].items if i.on}
            for item in group.items:
                if volts is None or item.min_v is None or item.id not in on:
                    continue
                key = (group.id, item.id)
                if volts < item.min_v and volts < worst.get(key, (99.0, ""))[0]:
                    worst[key] = (volts, load_case.words)
    for (group_id, item_id), (volts, words) in worst.items():
        yield _below(context, group_id, item_id, volts, words)
    yield from _dips(context, set(worst))


def _dips(context: Context, told: set[tuple[str, str]]) -> Iterator[Finding]:
    """Items that a start brings below their least voltage, with relays as they may stand then."""
    relays = context.design.of_type(Relay)
    profile = context.busiest_profile()
    done = set(told)
    for engine, field in (("first", "cranking"), ("second", "second_cranking")):
        if not any(s.engine == engine for s in context.design.of_type(Starter)):
            continue
        for were in ("open", "closed"):
            state = {field: True, "previous_states": {r.id: were for r in relays}}
            point = context.point(profile=profile, **state)
            for group in context.design.of_type(LoadGroup):
                now = point.loads[group.id]
                on = {i.id for i in now.items if i.on}
                for item in group.items:
                    key = (group.id, item.id)
                    if key in done or item.id not in on or item.min_v is None:
                        continue
                    if now.volts_v is not None and now.volts_v < item.min_v:
                        done.add(key)
                        yield _dip(context, group, item, now.volts_v, closed=were == "closed")


def _dip(
    context: Context, group: LoadGroup, item: LoadItem, volts: float, *, closed: bool
) -> Finding:
    relays = [r for r in context.design.of_type(Relay) if not r.start_isolation] if closed else []
    how = f"{context.names([r.id for r in relays])} still closed" if relays else "as drawn"
    return Finding(
        rule=CO8.id,
        severity="caution",
        title=f"{item.name} drops out when the engine is started",
        arithmetic=(
            f"Cranking, {how}: {volts:.2f} V at {group.name}; its maker asks for "
            f"{item.min_v or 0.0:g} V: {(item.min_v or 0.0) - volts:.2f} V short.",
        ),
        figures=(Figure("Has", volts, "V"), Figure("Needs", item.min_v or 0.0, "V")),
        limit=f"{item.min_v or 0.0:g} V",
        source=CO8.source,
        why="Electronics start anew at every start, and lose what they were doing.",
        repair="Start isolation at the relay, so that the banks are apart while it cranks."
        if relays
        else "A feed of its own from a bank that does not crank the engine.",
        parts=(group.id, *(r.id for r in relays)),
        change=SetPart(part=relays[0].id, fields={"start_isolation": True})
        if len(relays) == 1
        else None,
        about=f"{item.id} start",
    )


def _below(context: Context, group_id: str, item_id: str, volts: float, words: str) -> Finding:
    group = context.design.by_id[group_id]
    assert isinstance(group, LoadGroup)
    item = next(i for i in group.items if i.id == item_id)
    least = item.min_v or 0.0
    path = next((p for p in paths(context.design) if p.id == f"supply {group_id}"), None)
    lost = f"; {path.drop_v:.2f} V of it are lost on the way" if path else ""
    return Finding(
        rule=CO8.id,
        severity="caution",
        title=f"{item.name} has {volts:.2f} V, its maker asks for {least:g} V",
        arithmetic=(f"{words.capitalize()}: {volts:.2f} V at {group.name}{lost}.",),
        figures=(Figure("Has", volts, "V"), Figure("Needs", least, "V")),
        limit=f"{least:g} V",
        source=CO8.source,
        why="Refrigerators and electronics cut out while the bank still has half of its charge.",
        repair="A thicker or more direct run, or a larger bank that sags less.",
        parts=(group_id,),
        change=widen(context.design, path, context.stock, context.standard)
        if path and path.drop_v > path.limit_v
        else None,
        about=item_id,
    )


def detour(context: Context) -> Iterator[Finding]:
    """CO-9: detours."""
    if context.survey is None:
        return
    for one in detours(context.design, context.survey, context.stock):
        direct = next((w for w in one.ways if w.kind == "direct"), None)
        as_run = one.ways[0]
        if direct is None or as_run.length_m < DETOUR_SHARE * direct.length_m:
            continue
        if as_run.drop_percent - direct.drop_percent < DETOUR_PERCENT:
            continue
        kind, giver, *_ = one.path.split()
        yield Finding(
            rule=CO9.id,
            severity="note",
            title=f"{one.name} takes {as_run.length_m:.1f} m, {direct.length_m:.1f} m would do",
            arithmetic=tuple(
                f"{w.words.capitalize()}: {w.length_m:.1f} m, {w.gauge}, {w.drop_v:.2f} V = "
                f"{w.drop_percent:.1f} %, {w.copper_kg:.1f} kg of copper."
                for w in one.ways
            ),
            figures=(
                Figure("As run", as_run.drop_percent, "%"),
                Figure("Direct", direct.drop_percent, "%"),
            ),
            limit=f"{DETOUR_SHARE:g} times the direct way",
            source=CO9.source,
            why="The way by the helm is paid for in volts, every day.",
            repair="Run it straight with a fuse at the bank."
            if kind == "charge"
            else "Run it straight with a fuse at the bank, or fit a remote switch.",
            parts=(one.path.split()[-1],) if kind == "supply" else (giver,),
            about=kind if kind != "charge" else " ".join(one.path.split()),
        )


RULES = (
    (CO2, supply),
    (CO6, cranking),
    (CO7, charging),
    (CO8, least_volts),
    (CO9, detour),
)
