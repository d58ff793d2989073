import { describe, expect, it, vi } from "vitest";

import { show } from "@/shared/tests/stage";

import { rangeOf } from "./curves";
import TimeChart from "./TimeChart.vue";

describe("a chart over time", () => {
  it("rounds its range outwards, and never to nothing", () => {
    const cases: [number[], [number, number]][] = [
      [[12.6, 14.1], [12.5, 14.5]],
      [[-3, 21], [-5, 25]],
      [[0, 95], [0, 100]],
      [[4, 4], [4, 4.5]],
    ]; // prettier-ignore
    for (const [values, range] of cases) expect(rangeOf(values)).toEqual(range);
  });

  it("draws lines and steps to scale, and says what stands where it is pointed at", async () => {
    const points: [number, number][] = [[0, 2], [6, 8], [12, 4]]; // prettier-ignore
    const { found, words } = show(TimeChart, {
      lines: [{ name: "At anchor", points }],
      xUnit: " h",
      yUnit: "A",
      label: "Amps over hours",
    });
    // 600 wide: 56 to 572 for 12 h; 210 high: 182 for 0 A up to 10 for 8 A.
    expect(found.get("path").attributes("d")).toBe("M56.0 139.0L314.0 10.0L572.0 96.0");
    await found.setProps({ step: true });
    expect(found.get("path").attributes("d")).toBe("M56.0 139.0H314.0V10.0H572.0V96.0");
    for (const text of ["0 h", "12 h", "0 A", "8 A"]) expect(words()).toContain(text);
    const chart = found.get("[role=img]");
    vi.spyOn(chart.element, "getBoundingClientRect").mockReturnValue({ left: 100 } as DOMRect);
    await chart.trigger("pointermove", { clientX: 100 + 56 + 258 + 10 });
    expect(words()).toContain("At anchor 8.0 A");
    await chart.trigger("pointermove", { clientX: 100 });
    expect(words()).not.toContain("8.0 A");
  });
});
