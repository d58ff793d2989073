import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";

import { design, point } from "@/shared/tests/samples";

import type { Box, Component, Point } from "../types";
import GlyphName from "./GlyphName.vue";
import { GLYPHS } from "./index";

const BOX: Box = { id: "x", x: 0, y: 0, width: 200, height: 90, mirrored: false, posts: [] };

function drawn(id: string, position = "", now: Point | null = point(), box: Partial<Box> = {}) {
  const part = design().components.find((p) => p.id === id) as Component;
  const glyph = GLYPHS[part.kind ?? "fuse"];
  return mount(glyph, { props: { part, position, point: now, box: { ...BOX, ...box } } });
}

function text(...asked: Parameters<typeof drawn>): string {
  return drawn(...asked)
    .text()
    .replace(/\s+/g, " ");
}

describe("a bank", () => {
  it("shows volts, amps with their way, charge and what it is", () => {
    const words = text("house");
    expect(words).toContain("12.74 V");
    expect(words).toContain("−9.2 A out");
    expect(words).toContain("58 % full");
    expect(words).toContain("AGM 2 × 115 Ah");
  });

  it.each([
    [4.2, "+4.2 A in"],
    [0, "0.0 A at rest"],
  ])("at %f A says %s", (current_a, words) => {
    const banks = { house: { volts_v: 13, current_a, soc: 0.6, given_by_a: {} } };
    expect(text("house", "", point({ banks }))).toContain(words);
  });

  it("fills its basin by the charge on the bench", () => {
    const level = (soc: number) => {
      const banks = { house: { volts_v: 13, current_a: 0, soc, given_by_a: {} } };
      const path = drawn("house", "", point({ banks })).find(".water").attributes("d") ?? "";
      return Number(/M4 ([\d.]+)/.exec(path)?.[1]);
    };
    expect(level(1)).toBeLessThan(level(0.5));
    expect(level(0.5)).toBeLessThan(level(0));
  });
});

describe("a source", () => {
  const source = (mode: string, current_a = 0) => ({
    alternator: { mode, current_a, limit_a: 50, set_v: 14.3, volts_v: 14, sense_v: 14 },
  });
  it.each([
    ["limit", 47.4, "47.4 A at its limit"],
    ["voltage", 12, "12.0 A holds 14.30 V"],
    ["off", 0, "held back"],
    ["idle", 0, "engine stopped"],
    ["loose", 0, "no bank on it!"],
  ])("in mode %s says what it does", (mode, amps, words) => {
    const now = point({ sources: source(mode, amps) });
    expect(text("alternator", "", now)).toContain(words);
    expect(text("alternator", "", now)).toContain("senses at its own post");
  });
});

describe("a selector", () => {
  it.each([
    ["off", 0],
    ["1", 2],
    ["2", 2],
    ["both", 3],
  ])("on %s shows its word and its %i bridges", (position, bridges) => {
    const glyph = drawn("main", position);
    expect(glyph.text()).toContain(position.toUpperCase());
    expect(glyph.findAll(".bridge")).toHaveLength(bridges);
  });

  it("turned round has post 1 on the right", () => {
    const x = (mirrored: boolean) =>
      Number(drawn("main", "1", point(), { mirrored }).findAll(".post")[0]?.attributes("x"));
    expect(x(false)).toBeLessThan(x(true));
  });

  it("says that its break order is not known", () => {
    const titles = drawn("main", "1").findAll("title");
    expect(titles.at(-1)?.text()).toContain("break order unknown");
  });
});

describe("a relay", () => {
  it("says its verdict and what it sees", () => {
    const words = text("relay");
    expect(words).toContain("CHATTERS");
    expect(words).toContain("sees 13.72 V");
    expect(words).toContain("watches both");
  });

  it("without a reference sees nothing", () => {
    const relay = point().relays?.["relay"];
    if (!relay) throw new Error("no relay in the sample");
    const relays = { relay: { ...relay, sees_open_v: { a: null, b: null } } };
    expect(text("relay", "", point({ relays }))).toContain("sees nothing");
  });
});

describe("a load group", () => {
  it("lists what draws most first and marks what is too low", () => {
    const words = text("panel");
    expect(words.indexOf("Refrigerator")).toBeLessThan(words.indexOf("Cabin lights"));
    expect(words).toContain("10.90 V");
    expect(words).toContain("1 too low");
  });

  it("without a feed is dead", () => {
    const items = [{ id: "fridge", on: true, current_a: 0, below_minimum: false }];
    const loads = { panel: { volts_v: null, current_a: 0, given_by_a: {}, items } };
    const words = text("panel", "", point({ loads }));
    expect(words).toContain("no feed");
    expect(words).toContain("dead");
  });
});

describe("a name", () => {
  const rows = (name: string, width: number) =>
    mount(GlyphName, { props: { name, x: 0, y: 0, width } })
      .findAll("tspan")
      .map((row) => row.text());
  it.each([
    ["Relay", 80, ["Relay"]],
    ["Relay fuse, engine", 84, ["Relay fuse,", "engine"]],
    ["Bow feed fuse, house side", 84, ["Bow feed", "fuse, house…"]],
  ])("%s fits its room", (name, width, expected) => {
    expect(rows(name, width)).toEqual(expected);
  });
});

describe("an isolator", () => {
  it("says what it is made of, what it drops, and which way lets current by", () => {
    const words = text("weir");
    expect(words).toContain("silicon diodes");
    expect(words).toContain("drops 0.71 V");
    const glyph = drawn("weir");
    expect(glyph.findAll("g.open")).toHaveLength(1);
    expect(glyph.get("title").text()).toBe("1: 32.8 A, 2: 0.0 A");
    expect(text("weir", "", point({ passing: {} }))).toContain("lets nothing by");
    expect(text("weir", "", null)).not.toContain("lets nothing by");
  });
});

describe("long names of loads", () => {
  it("leave room for the amps, and are told whole when pointed at", () => {
    const part = design().components.find((p) => p.id === "panel") as Component;
    const items = [
      { id: "fridge", name: "Phone and tablet charging", draw_a: 2 },
      { id: "lights", name: "Cabin lights", draw_a: 1 },
    ];
    const props = { part: { ...part, items }, position: "", point: point(), box: BOX } as never;
    const words = mount(GLYPHS["loads"], { props }).text();
    expect(words).toContain("Phone and tablet…");
    expect(words).toContain("Phone and tablet charging");
  });
});

describe("a dc-dc charger", () => {
  it("runs from one level to the other, or rests with its input's volts", () => {
    expect(text("lock")).toContain("RUNS");
    expect(text("lock")).toContain("33.1 A to 30.0 A");
    expect(drawn("lock").findAll("path.lift")).toHaveLength(1);
    const now = point().converters?.["lock"];
    const lock = { ...now, verdict: "chatters", closed: false, in_v: 12.9 };
    const words = text("lock", "", point({ converters: { lock } as never }));
    expect(words).toContain("CHATTERS");
    expect(words).toContain("input 12.90 V");
    expect(text("lock", "", null)).not.toContain("input");
  });
});

describe("the rarer gear", () => {
  const part = (raw: object) => ({ assumed: [], id: "x", name: "Gear", ...raw }) as never;
  const words = (raw: { kind: Component["kind"] }, now: Point | null, position = "on") =>
    mount(GLYPHS[raw.kind ?? "fuse"], {
      props: { part: part(raw), position, point: now, box: BOX },
    })
      .text()
      .replace(/\s+/g, " ");
  const converter = { closed: true, in_v: 13.4, in_a: 15, out_v: 13.2, out_a: 15, mode: "limit" };
  const contact = { rests: true, volts_v: 13.2, current_a: 0, why: "within its limits" };
  const ofContact = (verdict: string, rests: boolean) =>
    point({ contacts: { x: { ...contact, verdict, rests } } as never });

  it("a one-way combiner says what it passes", () => {
    const now = point({ converters: { x: { ...converter, verdict: "closed", why: "" } } as never });
    expect(words({ kind: "one_way", limit_a: 15 } as never, now)).toContain("PASSES15.0 A");
    expect(words({ kind: "one_way", limit_a: 15 } as never, null)).toContain("15 A at most");
  });

  it.each([
    ["closed", true, "CLOSED"],
    ["open", false, "OPEN"],
  ])("a protection that is %s says so", (verdict, rests, told) => {
    expect(words({ kind: "protection" } as never, ofContact(verdict, rests))).toContain(told);
  });

  it("a held switch whose coil has let go is drawn open", () => {
    const held = { kind: "switch", drive: "held", rating_a: 100 } as never;
    expect(words(held, ofContact("closed", true))).toContain("held by coil");
    expect(words(held, ofContact("open", false))).toContain("coil let go");
  });

  it("a fused bus shows each fuse", () => {
    expect(words({ kind: "fuse_block", branch_a: [10, 25] } as never, null)).toContain("1025");
  });

  it.each([
    ["closed", true, "on", "takes 5.0 A at 10.90 V"],
    ["open", false, "on", "CUT OUT at 10.90 V"],
    ["open", true, "off", "off at 10.90 V"],
    ["open", true, "on", "shore passes at 10.90 V"],
  ])("an inverter %s, at rest %s, switched %s: %s", (verdict, rests, position, told) => {
    const loads = { x: { volts_v: 10.9, current_a: 5, given_by_a: {}, items: [] } };
    const now = { ...ofContact(verdict, rests), loads };
    expect(words({ kind: "inverter", rated_w: 1500, items: [] } as never, now, position)).toContain(
      told,
    );
  });

  it("a generator without wind says so", () => {
    const idle = { mode: "idle", current_a: 0, limit_a: 0, set_v: 14.2 };
    const now = point({ sources: { x: idle } as never });
    expect(words({ kind: "generator", driven_by: "wind" } as never, now)).toContain("no wind");
    expect(words({ kind: "generator", driven_by: "water" } as never, now)).toContain("no way on");
  });
});
