import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { ready, show } from "@/shared/tests/stage";

import { clock, nightsOf, readClock, ticks, writeClock } from "./clock";
import { inOrder } from "@/shared/charts/curves";
import { useDay } from "./dayStore";
import EventsSection from "./EventsSection.vue";
import LedgerSection from "./LedgerSection.vue";
import MomentSection from "./MomentSection.vue";
import NumbersSection from "./NumbersSection.vue";
import TimeLine from "./TimeLine.vue";
import VerdictSection from "./VerdictSection.vue";
import { NAMES, sheet } from "./tests/samples";

beforeEach(() => {
  setActivePinia(createPinia());
  document.body.innerHTML = "";
});

describe("clock", () => {
  it("counts days from the first, and reads what it writes", () => {
    expect(clock(8, 0, 12)).toBe("08:00");
    expect(clock(17, 9.5 * 3600, 50)).toBe("day 2, 02:30");
    for (const hour of [0, 6.5, 16, 40.25]) {
      expect(readClock(writeClock(hour, 17), 17)).toBeCloseTo(hour);
    }
    expect(readClock("06:00", 17)).toBe(13); // the next morning
    expect(readClock("day 2, 6.15", 17)).toBeCloseTo(13.25);
    for (const wrong of ["", "noon", "25:00", "1 08:75"]) expect(readClock(wrong, 8)).toBeNull();
  });

  it("knows when it is dark", () => {
    const sun = (at_s: number, to: string) => ({ kind: "sun", at_s, to }) as never;
    const cases: [never[], [number, number][]][] = [
      [[], []],
      [[sun(20, "up"), sun(60, "down")], [[0, 20], [60, 90]]],
      [[sun(10, "down"), sun(40, "up"), sun(80, "down")], [[10, 40], [80, 90]]],
      [[sun(10, "down"), sun(40, "up")], [[10, 40]]],
    ]; // prettier-ignore
    for (const [events, dark] of cases) expect(nightsOf(events, 90)).toEqual(dark);
  });

  it("sets few and round ticks", () => {
    expect(ticks(17, 50, 8).map((t) => t.words)).toEqual(["day 2", "12:00", "day 3", "12:00"]);
    expect(ticks(8, 6, 8).map((t) => t.hour)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  });
});

describe("the day", () => {
  it("shows the gravest of the verdict first, with what would mend it", () => {
    const { words } = show(VerdictSection, { sheet: sheet() });
    expect(words()).toContain("▲ The engine does not start");
    expect(words().indexOf("Keep a bank for it.")).toBeLessThan(words().indexOf("The relay rests"));
  });

  it("draws strips, curves and starts, and points by key and by hand", async () => {
    const { found, words } = show(TimeLine, { sheet: sheet(), at: 43200, names: NAMES });
    // The values at the moment that is pointed at; a source that gives nothing is left out.
    for (const text of ["House bank", "70 %", "13.60 V", "9.0 A", "8.71 V ✗ fails", "closed"]) {
      expect(words()).toContain(text);
    }
    expect(words()).not.toContain("alternator");
    const line = found.get("svg");
    expect(line.attributes("aria-valuetext")).toBe("day 1, 20:00");
    await line.trigger("keydown", { key: "ArrowRight" });
    await line.trigger("keydown", { key: "End" });
    expect(found.emitted("point")).toEqual([[43800], [86400]]);
  });

  it("shows what gear does, and no bar for what rests", () => {
    const piece = (start_s: number, end_s: number, state: string) => ({ start_s, end_s, state });
    const gear = (part: string, rest: string, moved: string) => ({
      kind: "gear",
      part,
      name: `The ${part}`,
      rest,
      pieces: [piece(0, 40000, rest), piece(40000, 86400, moved)],
    });
    const strips = [gear("charger", "rests", "runs"), gear("guard", "closed", "open")];
    const { found } = show(TimeLine, { sheet: sheet({ strips }), at: 0, names: NAMES });
    const bars = found.findAll(".piece.gear text").map((bar) => bar.text());
    expect(bars).toEqual(["runs", "open"]);
  });

  it("names every line, in the order of the scheme", () => {
    expect(inOrder({ b: 1, aa: 2, z: 3 }, { aa: "A", b: "B" }).map(([id]) => id)).toEqual([
      "aa",
      "b",
      "z",
    ]);
    const given = Object.fromEntries(["a", "b", "c", "d"].map((id) => [id, [1, 2, 3, 4]]));
    const series = { ...sheet().series, source_a: { ...given, solar: [0, 2, 9, 0] } };
    const { words } = show(TimeLine, { sheet: sheet({ series }), at: 3600, names: NAMES });
    const legend = words().slice(words().indexOf("Amps"));
    for (const name of ["Solar", "a", "b", "c", "d", "All loads"]) expect(legend).toContain(name);
    expect(legend.indexOf("Solar")).toBeLessThan(legend.indexOf("b"));
  });

  it("shows the volts at an alternator that gives, and not at one that does not", () => {
    const still = show(TimeLine, { sheet: sheet(), at: 43200, names: NAMES });
    expect(still.words()).not.toContain("At alt");
    const source_a = { solar: [0, 2, 9, 0], alternator: [0, 0, 31, 0] };
    const series = { ...sheet().series, source_a };
    const { words } = show(TimeLine, { sheet: sheet({ series }), at: 43200, names: NAMES });
    expect(words()).toContain("At alt");
    expect(words()).toContain("14.2");
  });

  it("lists events that lead to their moment", async () => {
    ready();
    const day = useDay();
    day.day = { sheet: sheet() } as never;
    const point = vi.spyOn(day, "point").mockResolvedValue();
    const { words, press } = show(EventsSection, { sheet: sheet() });
    expect(words()).toContain("day 1, 09:00");
    expect(words()).toContain("house_bank 58 %");
    await press("does not start");
    expect(point).toHaveBeenCalledWith(80000);
  });

  it("tells banks, loads, stages and what was joined in numbers", () => {
    const { found } = show(NumbersSection, { sheet: sheet(), names: NAMES });
    const rows = (table: string) =>
      found.findAll(`table[aria-label="${table}"] tbody tr`).map((row) =>
        row
          .findAll("th, td")
          .map((cell) => cell.text().replace(/\s+/g, " "))
          .join(" | "),
      );
    expect(rows("Banks")).toEqual([
      "House bank | 58 % | 52 % | day 2, 08:00 | 52 % | 25 Ah | 15 Ah",
    ]);
    expect(rows("Loads")).toEqual([
      "House panel | 11.32 V | ■ CO alarm 1.0 h of 24 h ■ Light 0.3 h of 4.0 h",
      "pump | 12.01 V | nothing",
    ]);
    expect(rows("Stages")).toEqual(["Solar | 3.2 h | – | 13 h"]);
    expect(found.text()).toContain("engine_bank and House bank joined for 16 h of 24 h");
  });

  it("draws the ledger and says how well it closes", () => {
    const { found, words } = show(LedgerSection, { sheet: sheet(), names: NAMES });
    expect(words()).toContain("closes within 0.002 %");
    expect(found.findAll("path.band")).toHaveLength(5);
    expect(words()).toContain("25 Ah · 320 Wh");
    expect(words()).toContain("30 Wh inside the banks, 4 Wh in cables and contacts, 6 Wh in gear");
  });
});

describe("the moment", () => {
  it("plays to the end and stops, and jumps from event to event", async () => {
    vi.useFakeTimers();
    ready();
    const day = useDay();
    day.day = { sheet: sheet() } as never;
    const point = vi.spyOn(day, "point").mockImplementation((at) => {
      day.at = Math.min(at, 86400);
    });
    const { found, words, press } = show(MomentSection);
    await press("Event after");
    expect([day.at, words()]).toEqual([3600, "day 1, 09:00"]);
    await press("Event after");
    await press("Event before");
    expect(day.at).toBe(3600);
    await found.get("[aria-label=Play]").trigger("click");
    vi.advanceTimersByTime(600);
    expect(day.at).toBeCloseTo(3600 + 10 * 216); // ten of 400 frames a day
    vi.advanceTimersByTime(60_000);
    await found.vm.$nextTick();
    expect(day.at).toBe(86400);
    point.mockClear();
    vi.advanceTimersByTime(1000);
    expect(point).not.toHaveBeenCalled();
    expect(found.find("[aria-label=Play]").exists()).toBe(true);
    vi.useRealTimers();
  });
});
