"""Rules about banks: BA-1, BA-2, BA-3, BA-8, and what charges them, CH-8."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.batteries import bank_source, charge_run, expected_life, least_resistance_ohm
from strom_engine.batteries.strings import lead_ohm, string_shares
from strom_engine.design import Bank, Charger, FittedInverter, Starter
from strom_engine.reference import chemistry, load_table
from strom_engine.rules.context import Context, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.sizing import Need, StartCheck, house_bank, start_check
from strom_engine.sizing.candidates import MAX_STRINGS, cycles_a_year
from strom_engine.sizing.sources_aboard import charge_sources

__all__ = ["RULES", "charger_size", "expected_years", "house_size", "members", "start_bank"]

SHORT_LIFE_YEARS = 4.0  # less than this and the owner buys banks, not a boat; own judgement
DANGER_SHARE = 0.8
UNEQUAL = 1.15  # of its equal share that a string may work; own judgement

BA1 = Rule(
    "BA-1",
    "The house bank holds what the audit asks",
    "Capacity against net daily use, days between charges, usable window, growth and ageing.",
    f"Trade practice; {load_table('usable_window').source}; {CONFIRM}",
)
BA2 = Rule(
    "BA-2",
    "The start bank cranks the engine on the coldest morning",
    "Cranking need against cold cranking amps, and volts at the starter through the cables.",
    f"{load_table('cranking_cold').source}; 9.6 V at the starter unless the engine's maker says "
    f"otherwise; {CONFIRM}",
)
BA3 = Rule(
    "BA-3",
    "The batteries of a bank are alike, few in parallel and taken off at opposite ends",
    "Strings in parallel and how they share a current by their leads and corners; likeness of the "
    "members; a fuse in each lithium string; nothing taken off a part of a series.",
    f"ABYC E-10, batteries in series and parallel; makers' manuals; {CONFIRM}",
)
BA8 = Rule(
    "BA-8",
    "The house bank lasts some years at this depth of discharge",
    "Cycles at the depth of everyday use, against days aboard in a year.",
    f"{load_table('battery_chemistry').source}; {CONFIRM}",
)
CH8 = Rule(
    "CH-8",
    "The charger is large enough for the bank with the loads running",
    "Charger amps less the mean draw, against the share of capacity the chemistry wants.",
    f"{load_table('charge_rate').source}; ABYC A-31 for its fitting; {CONFIRM}",
)


FILLED_SOC, NIGHT_H = 0.95, 12.0  # from an evening to a morning alongside; own judgement
TAPER_SHARE = 0.6  # of the label that a charger gives in the mean over a charge that tapers


def _counting(context: Context) -> Need | None:
    plan = context.plan
    return next((n for n in plan.needs if n.way == plan.counts), None) if plan else None


def house_size(context: Context) -> Iterator[Finding]:
    """BA-1: the house bank against the need that counts."""
    bank, need = house_bank(context.design), _counting(context)
    if bank is None:
        return
    if need is None:
        yield Finding(
            rule=BA1.id,
            severity="cannot_tell",
            title=f"Whether {bank.name} is large enough is not known",
            arithmetic=(f"{bank.name}: {bank.capacity_ah:.0f} Ah; no audit to hold it against.",),
            figures=(Figure("Capacity", bank.capacity_ah, "Ah"),),
            limit="the need by the audit",
            source=BA1.source,
            why="A bank that is too small is flat by morning, and is worn out early.",
            repair="Fill in the audit on the stage Loads.",
            parts=(bank.id,),
            missing="the loads and their hours in a profile away from shore (stage Loads)",
        )
        return
    family = chemistry(bank.chemistry).family
    wanted = need.need_ah[family]
    if bank.capacity_ah >= wanted:
        return
    lines = (*need.working[:3], next(w for w in need.working if w.lower().startswith(family)))
    yield Finding(
        rule=BA1.id,
        severity="caution",
        title=f"{bank.name} holds {bank.capacity_ah:.0f} Ah; this life needs {wanted:.0f} Ah",
        arithmetic=(
            *lines,
            f"{bank.capacity_ah:.0f} Ah / {wanted:.0f} Ah = {bank.capacity_ah / wanted:.0%} of it.",
        ),
        figures=(
            Figure("Capacity", bank.capacity_ah, "Ah"),
            Figure("Needed", wanted, "Ah"),
            Figure("Net use", need.net_ah, "Ah/day"),
        ),
        limit=f"{wanted:.0f} Ah ({need.label.lower()})",
        source=BA1.source,
        why="A bank that is too small is flat by morning, and is worn out early.",
        repair="Choose a larger bank on the stage Banks, charge more often, or use less.",
        parts=(bank.id,),
    )


def start_bank(context: Context) -> Iterator[Finding]:
    """BA-2: every starter on the coldest morning."""
    for starter in context.design.of_type(Starter):
        check = start_check(context.design, context.survey, starter)
        if check.bank is None:
            continue
        weak = check.volts_v is None or check.volts_v < check.limit_v
        short = check.available_a is not None and check.available_a < check.need_a
        if check.missing and (context.survey is not None or weak or short):
            yield _start_finding(context, starter, check, "cannot_tell")
        elif weak or short:
            far = (check.volts_v or 0.0) < DANGER_SHARE * check.limit_v
            yield _start_finding(context, starter, check, "danger" if far else "fault")


def _start_finding(context: Context, starter: Starter, check: StartCheck, how: str) -> Finding:
    bank = context.name(str(check.bank))
    volts = "no steady voltage" if check.volts_v is None else f"{check.volts_v:.1f} V"
    title = f"At {check.coldest_c:g} °C {bank} leaves {volts} at {starter.name}"
    if how == "cannot_tell":
        title = f"Whether {bank} starts the engine at {check.coldest_c:g} °C is not known"
    figures = [Figure("Needed", check.need_a, "A"), Figure("At least", check.limit_v, "V")]
    if check.volts_v is not None:
        figures.append(Figure("At the starter", check.volts_v, "V"))
    if check.available_a is not None:
        figures.append(Figure("Available", check.available_a, "A"))
    return Finding(
        rule=BA2.id,
        severity="danger" if how == "danger" else "fault" if how == "fault" else "cannot_tell",
        title=title,
        arithmetic=check.working,
        figures=tuple(figures),
        limit=f"{check.need_a:.0f} A at {check.coldest_c:g} °C, {check.limit_v:g} V at the starter",
        source=BA2.source,
        why="A boat that cannot start is the failure everything else is measured against.",
        repair="A start battery with more cold cranking amps; shorter or thicker cranking cables; "
        "no detour over the helm.",
        parts=(str(check.bank), starter.id),
        missing="; ".join(check.missing) + " (stage Survey)" if how == "cannot_tell" else None,
        estimated=check.estimated,
    )


def members(context: Context) -> Iterator[Finding]:
    """BA-3: strings, likeness, take-off."""
    for bank in context.banks:
        if bank.parallel > MAX_STRINGS:
            yield _members_finding(
                bank,
                "caution",
                f"{bank.name} has {bank.parallel} strings in parallel",
                f"{bank.parallel} strings; at most {MAX_STRINGS} share well.",
                "Take larger batteries, or cells of 2 V or 6 V in series.",
            )
        if bank.members_alike is False:
            yield _members_finding(
                bank,
                "fault",
                f"{bank.name} is made of unlike batteries",
                f"{bank.series} x {bank.parallel} batteries, not of one make, size and age.",
                "Replace the whole bank by batteries of one make, size and age.",
            )
        if bank.parallel > 1 and bank.take_off is not None:
            yield from _shared(bank)
        yield from _strings_fused(bank)
        yield from _tapped(bank)


def _shared(bank: Bank) -> Iterator[Finding]:
    """How unequally the strings work."""
    shares = string_shares(bank)
    most = max(shares) * bank.parallel
    one_end = bank.take_off == "one_end"
    if not one_end and most <= UNEQUAL:
        return
    amps = ", ".join(f"{100 * s:.0f}" for s in shares)
    other = ", ".join(f"{100 * s:.0f}" for s in string_shares(bank, opposite=True))
    corners = f" Taken off at opposite ends: {other} A." if one_end else ""
    yield _members_finding(
        bank,
        "caution",
        f"{bank.name} is taken off at one end: one string does {most - 1:.0%} more than its share"
        if one_end
        else f"One string of {bank.name} does {most - 1:.0%} more than its share",
        f"Of 100 A the {bank.parallel} strings give {amps} A, with leads of "
        f"{1000 * lead_ohm(bank):.2f} mΩ between them.{corners}",
        "Take positive off one end of the row and negative off the other."
        if one_end
        else "Shorter and thicker leads between the strings, or each string to a bar of its own.",
        about="shares",
    )


def _strings_fused(bank: Bank) -> Iterator[Finding]:
    """Lithium strings in parallel without a fuse in each."""
    if bank.parallel < 2 or not is_lithium(bank) or bank.string_fuses:
        return
    # The others, R / (n - 1), feed the one that is shorted, R = n R_bank.
    inside_ohm = bank.parallel * least_resistance_ohm(bank)
    fault_a = bank_source(bank, 1.0).emf_v * (bank.parallel - 1) / (bank.parallel * inside_ohm)
    unknown = bank.string_fuses is None
    yield _members_finding(
        bank,
        "cannot_tell" if unknown else "fault",
        f"Whether each string of {bank.name} has a fuse is not known"
        if unknown
        else f"The {bank.parallel} strings of {bank.name} have no fuse each",
        f"A string that fails inside is fed by {bank.parallel - 1} others with some "
        f"{fault_a:.0f} A, which pass no fuse of the bank.",
        "A class T fuse in each string, at its battery.",
        about="fuses",
        missing=f"{bank.name}: is there a fuse in each string? Look, enter it there."
        if unknown
        else None,
    )


def _tapped(bank: Bank) -> Iterator[Finding]:
    """A part of the series that is drawn upon alone."""
    if bank.tap_a is None or bank.series < 2:
        return
    day_ah = 24 * bank.tap_a
    yield _members_finding(
        bank,
        "fault",
        f"A part of {bank.name} feeds {bank.tap_a:g} A alone",
        f"24 h x {bank.tap_a:g} A = {day_ah:.0f} Ah a day from that part and not from the rest, "
        f"{day_ah / bank.capacity_ah:.0%} of {bank.capacity_ah:.0f} Ah; one charging current "
        "passes both, so that one part boils while the other never fills.",
        "A dc-dc converter from the whole bank, or a battery equaliser of that current.",
        about="tap",
    )


def _members_finding(
    bank: Bank,
    how: Severity,
    title: str,
    line: str,
    repair: str,
    *,
    about: str = "",
    missing: str | None = None,
) -> Finding:
    return Finding(
        rule=BA3.id,
        severity=how,
        title=title,
        arithmetic=(line,),
        figures=(Figure("Strings", float(bank.parallel), ""),),
        limit=f"{MAX_STRINGS} strings; batteries alike; opposite ends",
        source=BA3.source,
        why="The weakest member takes the others down with it.",
        repair=repair,
        parts=(bank.id,),
        about=about,
        missing=missing,
    )


def expected_years(context: Context) -> Iterator[Finding]:
    """BA-8: years at the depth of everyday use."""
    bank, need = house_bank(context.design), _counting(context)
    if bank is None or need is None or context.survey is None or need.period_ah <= 0:
        return
    depth = min(1.0, need.period_ah / bank.capacity_ah)
    life = expected_life(bank.chemistry, depth, cycles_a_year(context.survey, need))
    if life.years >= SHORT_LIFE_YEARS:
        return
    yield Finding(
        rule=BA8.id,
        severity="caution",
        title=f"{bank.name} lasts about {life.years:.1f} years at this use",
        arithmetic=(
            f"{need.period_ah:.0f} Ah between charges / {bank.capacity_ah:.0f} Ah = {depth:.0%}.",
            *life.working,
        ),
        figures=(Figure("Depth", 100 * depth, "%"), Figure("Life", life.years, "years")),
        limit=f"{SHORT_LIFE_YEARS:g} years",
        source=BA8.source,
        why="Deep cycles wear a bank out; lead most of all.",
        repair="A larger bank, charging more often, or another chemistry.",
        parts=(bank.id,),
    )


def charger_size(context: Context) -> Iterator[Finding]:
    """CH-8: the shore charger against the house bank and what runs meanwhile."""
    bank, survey = house_bank(context.design), context.survey
    day_a = 0.0
    if survey is not None and context.plan is not None:
        on_shore = [p.use_ah / 24 for p in context.plan.yields.profiles if p.shore]
        day_a = max(on_shore, default=0.0)
    shore = [s for s in charge_sources(context.design, day_a) if s.kind == "shore"]
    if bank is None or not shore:
        return
    source, figures = shore[0], chemistry(bank.chemistry)
    low = bank.model_copy(update={"soc": figures.usable_low_soc})
    run = charge_run(low, FILLED_SOC, round(source.net_a, 1), source.hold_v)
    row = next(r for r in load_table("charge_rate").rows if r["family"] == figures.family)
    # Lithium does not mind a weak charger; lead that is never charged with a tenth of it sulphates.
    wanted = float(row["low"]) * bank.capacity_ah if figures.family == "lead" else 0.0
    overnight = run.reached_h is not None and run.reached_h <= NIGHT_H
    if source.net_a >= wanted and overnight:
        return
    takes = "never gets there" if run.reached_h is None else f"takes {run.reached_h:.1f} h"
    least = f"{float(row['low']):.0%} of {bank.capacity_ah:.0f} Ah = {wanted:.1f} A."
    missing_ah = (FILLED_SOC - low.soc) * bank.capacity_ah / figures.coulombic_efficiency
    enough_a = max(wanted, missing_ah / (NIGHT_H * TAPER_SHARE)) + day_a
    charging = (Charger, FittedInverter)
    yield Finding(
        rule=CH8.id,
        severity="caution",
        title=f"{source.gross_a:.0f} A of charger is weak for {bank.name}",
        arithmetic=(
            f"{source.gross_a:.0f} A - {day_a:.1f} A of loads running = {source.net_a:.1f} A.",
            *((least,) if wanted else ()),
            f"From {low.soc:.0%} to {FILLED_SOC:.0%} at {source.hold_v:g} V: it {takes}; "
            f"a night alongside has {NIGHT_H:.0f} h.",
        ),
        figures=(
            Figure("Left for the bank", source.net_a, "A"),
            *((Figure("Wanted", wanted, "A"),) if wanted else ()),
            *((Figure("Hours to fill", run.reached_h, "h"),) if run.reached_h else ()),
        ),
        limit=f"full in a night of {NIGHT_H:.0f} h"
        + (f"; {float(row['low']):.0%} to {float(row['high']):.0%} of capacity" if wanted else ""),
        source=CH8.source,
        why="What counts is the charger less the loads: what is not full in the morning sails so.",
        repair=f"A charger of about {enough_a:.0f} A or more.",
        parts=(*(p.id for p in context.sources if isinstance(p, charging)), bank.id),
    )


RULES = (
    (BA1, house_size),
    (BA2, start_bank),
    (BA3, members),
    (BA8, expected_years),
    (CH8, charger_size),
)
