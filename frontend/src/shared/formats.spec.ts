import { afterEach, expect, it } from "vitest";

import { day, dayAndHour, formats } from "./formats";
import { distance, length } from "./units";

const usual = formats.value;
afterEach(() => (formats.value = usual));
const evening = new Date(2026, 2, 9, 18, 5);

it.each([
  ["ymd", "24", "2026-03-09 18:05"],
  ["dmy", "24", "09.03.2026 18:05"],
  ["mdy", "12", "03/09/2026 06:05 PM"],
] as const)("writes %s and %s h", (dates, clock, written) => {
  formats.value = { ...usual, dates, clock };
  expect(dayAndHour(evening).replace(/\s/g, " ")).toBe(written);
  expect(dayAndHour(evening.getTime())).toBe(dayAndHour(evening.toISOString()));
  expect(written.startsWith(day(evening))).toBe(true);
});

it.each([
  ["both", "11.8 m · 38.7 ft", "0.60 m · 24 in"],
  ["metric", "11.8 m", "0.60 m"],
  ["feet", "38.7 ft", "24 in"],
] as const)("shows lengths in %s", (units, long, short) => {
  formats.value = { ...usual, units };
  expect([length(11.8), distance(0.6)]).toEqual([long, short]);
});
