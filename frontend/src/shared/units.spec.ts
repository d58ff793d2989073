import { describe, expect, it } from "vitest";

import { amps, length, percent, signedAmps, volts } from "./units";

describe("numbers on screen", () => {
  it.each([
    [volts(13.456), "13.46 V"],
    [volts(null), "–"],
    [amps(-9.04), "−9.0 A"],
    [amps(-0.01), "0.0 A"],
    [amps(340.4), "340 A"],
    [signedAmps(5.25), "+5.3 A"],
    [signedAmps(0.01), "0.0 A"],
    [signedAmps(-11.2), "−11.2 A"],
    [percent(0.576), "58 %"],
    [length(3.048), "3.0 m · 10.0 ft"],
  ])("%s", (shown, expected) => {
    expect(shown).toBe(expected);
  });
});
