import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, expect, it, vi } from "vitest";

import { vuetify } from "@/app/theme";
import { useScheme } from "@/documents/schemeStore";
import { scheme } from "@/shared/tests/samples";

import PathFollower, { type Followed } from "./PathFollower.vue";

const step = (id: object, side: string, current_a: number) => ({
  name: Object.values(id)[0] as string,
  cable: null,
  parts: [],
  side,
  current_a,
  drop_v: 0.05,
  length_m: 2,
  ...id,
});
const PATHS = [
  { id: "a", name: "House bank to panel", state: "at anchor, all on" },
  { id: "b", name: "House bank to starter", state: "cranking" },
].map((path) => ({
  ...path,
  steps: [
    step({ cable: "feed", parts: ["house", "main"] }, "out", 20),
    step({ name: "Main selector", parts: ["main"] }, "out", 20),
    step({ cable: "run", parts: ["bar", "panel"] }, "back", 20),
  ],
}));

beforeEach(() => {
  setActivePinia(createPinia());
  vi.stubGlobal("fetch", (request: Request) =>
    Promise.resolve(
      request.url.endsWith("/runs")
        ? new Response(
            JSON.stringify({ revision: 1, survey_revision: 1, report: { paths: PATHS } }),
          )
        : new Response("{}", { status: 404 }),
    ),
  );
});

it("a path is followed piece by piece, with the state it was computed for", async () => {
  useScheme().scheme = scheme();
  const page = mount(PathFollower, { global: { plugins: [vuetify] } });
  await vi.waitFor(() => expect(page.text()).toContain("feed"));
  const last = () => page.emitted<[Followed | null]>("at")?.at(-1)?.[0];
  expect(last()).toEqual({
    ids: new Set(["feed", "house", "main", "run", "bar", "panel"]),
    at: "feed",
  });
  expect(page.text()).toContain("1 of 3, out · 20.0 A · loses 0.050 V");
  expect(page.text()).toContain("Computed for: at anchor, all on.");
  const press = async (words: string) => {
    await page
      .findAll("button")
      .find((b) => b.text() === words)
      ?.trigger("click");
    await flushPromises();
  };
  await press("Next");
  expect(last()?.at).toBe("main");
  expect(page.get("[role=status]").text()).not.toContain(" m"); // a contact has no length
  await press("Next");
  await press("Next"); // there is none: it stays
  expect(last()?.at).toBe("run");
  await page.get("select").setValue("b");
  expect(last()?.at).toBe("feed");
  expect(page.text()).toContain("Computed for: cranking.");
});
