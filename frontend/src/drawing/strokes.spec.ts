import { expect, it } from "vitest";

import { flowOf, strokeWidth } from "./strokes";

it.each([
  [0.0, true, "idle", 2.5],
  [-30, true, "flowing", 3 + 8 * Math.sqrt(30 / 150)],
  [900, true, "flowing", 11],
  [12, false, "dead", 2.5],
] as const)("%f A, live %s is drawn %s", (amps, live, flow, width) => {
  expect(flowOf(amps, live)).toBe(flow);
  expect(strokeWidth(amps, flow)).toBeCloseTo(width);
});
