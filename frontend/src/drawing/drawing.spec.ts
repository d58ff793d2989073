import { mount } from "@vue/test-utils";
import { beforeAll, describe, expect, it, vi } from "vitest";
import { ref } from "vue";

import { vuetify } from "@/app/theme";
import { design, point } from "@/shared/tests/samples";

import SchemeDrawing from "./SchemeDrawing.vue";
import type { Layout } from "./types";
import { useZoom } from "./useZoom";

let resized: (size: { width: number; height: number }) => void = () => undefined;

beforeAll(() => {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      constructor(tell: (entries: unknown[]) => void) {
        resized = (size) => tell([{ contentRect: size }]);
      }
      observe() {
        return undefined;
      }
      disconnect() {
        return undefined;
      }
    },
  );
});

const LAYOUT: Layout = {
  side: "pos",
  width: 400,
  height: 300,
  bays: [{ bank: "house", x: 0, width: 400 }],
  boxes: [
    {
      id: "house",
      x: 20,
      y: 30,
      width: 200,
      height: 84,
      mirrored: false,
      posts: [{ ref: "house.pos", x: 120, y: 114, width: 16, edge: "bottom" }],
    },
    {
      id: "bar",
      x: 20,
      y: 200,
      width: 200,
      height: 34,
      mirrored: false,
      posts: [{ ref: "bar.bar", x: 60, y: 200, width: 48, edge: "top" }],
    },
  ],
  wires: [
    {
      id: "feed",
      points: [
        { x: 120, y: 114 },
        { x: 120, y: 200 },
      ],
      label_x: 120,
      label_y: 150,
    },
    {
      id: "run",
      points: [
        { x: 60, y: 234 },
        { x: 60, y: 280 },
      ],
      label_x: 60,
      label_y: 260,
    },
  ],
};

function drawing(landing: string[] | null = null) {
  return mount(SchemeDrawing, {
    global: { plugins: [vuetify] },
    props: {
      design: design(),
      layout: LAYOUT,
      point: point(),
      positionOf: () => "off",
      cableNames: { feed: "House bank + to Main selector two", run: "Bar to House panel +" },
      postNames: { "house.pos": "House bank +", "bar.s4": "House positive bar s4" },
      picked: null,
      landing,
    },
  });
}

describe("the drawing", () => {
  it("lets all but a followed path stand back, with the piece at hand in the middle", async () => {
    const found = drawing();
    resized({ width: 200, height: 100 });
    const middle = () => {
      const view = (found.get("svg").attributes("viewBox") ?? "").split(" ").map(Number);
      const [x = 0, y = 0, width = 0, height = 0] = view;
      return { x: x + width / 2, y: y + height / 2 };
    };
    const faded = (what: string) => found.get(what).classes("faded");
    expect(faded('[data-cable="run"]')).toBe(false);
    await found.setProps({ followed: { ids: new Set(["feed", "house"]), at: "feed" } });
    expect([faded('[data-cable="feed"]'), faded('[data-part="house"]')]).toEqual([false, false]);
    expect([faded('[data-cable="run"]'), faded('[data-part="bar"]')]).toEqual([true, true]);
    expect(found.get('[data-cable="feed"]').attributes("aria-pressed")).toBe("true");
    const wire = LAYOUT.wires[0];
    // 200 px at the scale that can be read are 278 of the drawing: its middle is at 139 or more.
    expect(middle().x).toBeCloseTo(Math.max(wire?.label_x ?? 0, 139), 0);
    expect(Math.abs(middle().y - (wire?.label_y ?? 0))).toBeLessThan(25);
    await found.setProps({ followed: null });
    expect(faded('[data-cable="run"]')).toBe(false);
  });

  it("draws amps as width and says them; a dead cable is dead", () => {
    const found = drawing();
    const feed = found.get('[data-cable="feed"]');
    expect(feed.attributes("aria-label")).toBe("Cable House bank + to Main selector two: 9.2 A");
    expect(feed.classes()).toContain("flowing");
    expect(Number(feed.get(".core").attributes("stroke-width"))).toBeGreaterThan(3);
    expect(found.get('[data-cable="run"]').classes()).toContain("dead");
    expect(found.get('[data-cable="run"]').attributes("aria-label")).toContain("no voltage");
    expect(found.findAll(".label rect")).toHaveLength(1);
  });

  it("lets cables and parts be picked by mouse and by key", async () => {
    const found = drawing();
    await found.get('[data-cable="feed"]').trigger("click");
    await found.get('[data-cable="run"]').trigger("keydown", { key: "Enter" });
    await found.get('[data-part="house"] [role="button"]').trigger("click");
    expect(found.emitted("cable")).toEqual([["feed"], ["run"]]);
    expect(found.emitted("part")).toEqual([["house"]]);
  });

  it("offers only the posts where an end can land; a bar by its free stud", async () => {
    expect(drawing().findAll("[data-post]")).toHaveLength(0);
    const found = drawing(["bar.s4", "main.one"]);
    const offered = found.findAll("[data-post]");
    expect(offered.map((post) => post.attributes("data-post"))).toEqual(["bar.s4"]);
    expect(offered[0]?.attributes("aria-label")).toBe("Land on House positive bar s4");
    await offered[0]?.trigger("click");
    expect(found.emitted("post")).toEqual([["bar.s4"]]);
  });

  it("names the bay after its bank", () => {
    expect(drawing().get(".bay-name").text()).toBe("House bank");
  });
});

describe("zoom", () => {
  const size = { width: 800, height: 400 };
  function zoom(room: { width: number; height: number }) {
    let found: ReturnType<typeof useZoom> | undefined;
    const host = mount({
      setup() {
        const frame = ref<SVGSVGElement | null>(null);
        found = useZoom(ref(size), frame);
        return { frame };
      },
      template: "<svg ref='frame' />",
    });
    resized(room);
    if (!found) throw new Error("not set up");
    return { zoom: found, host };
  }
  const box = (z: ReturnType<typeof useZoom>) => z.viewBox.value.split(" ").map(Number);

  it("shows the whole drawing at a desk, in the middle of what is wider", () => {
    const { zoom: z } = zoom({ width: 1000, height: 400 });
    expect(box(z)).toEqual([-100, 0, 1000, 400]);
    expect(z.zoomed.value).toBe(false);
  });

  it("opens fitted on a phone; a place it goes to can be read, and the whole comes back", () => {
    const { zoom: z } = zoom({ width: 390, height: 500 });
    expect(box(z)[2]).toBeCloseTo(800, 0);
    expect(z.zoomed.value).toBe(false);
    z.toward({ x: 400, y: 300 });
    expect(box(z)[2]).toBeCloseTo(390 / 0.72, 0);
    expect(z.zoomed.value).toBe(true);
    z.whole();
    expect(box(z)[2]).toBeCloseTo(800, 0);
  });

  it("goes closer about the middle, never further than the whole", () => {
    const { zoom: z } = zoom({ width: 800, height: 400 });
    z.by(2);
    expect(box(z)).toEqual([200, 100, 400, 200]);
    z.by(0.1);
    expect(box(z)).toEqual([0, 0, 800, 400]);
  });

  it("is dragged within the drawing, and a drag is no click", () => {
    const { zoom: z } = zoom({ width: 800, height: 400 });
    const at = (clientX: number) => ({ pointerId: 1, clientX, clientY: 0 }) as PointerEvent;
    z.by(2);
    z.down(at(300));
    z.move(at(200));
    expect(box(z)[0]).toBe(250);
    z.move(at(-2000));
    expect(box(z)[0]).toBe(400);
    z.up(at(-2000));
    expect(z.dragged()).toBe(true);
    z.down(at(10));
    z.up(at(10));
    expect(z.dragged()).toBe(false);
  });
});
