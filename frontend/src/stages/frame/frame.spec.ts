import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { VApp } from "vuetify/components/VApp";
import { createMemoryHistory, createRouter } from "vue-router";

import { vuetify } from "@/app/theme";
import { useOpenJob } from "@/documents/openJob";
import { scheme } from "@/shared/tests/samples";
import { choices, survey } from "@/shared/tests/surveySamples";
import { STAGES } from "@/stages/stages";

import StageBody from "./StageBody.vue";
import StageFrame from "./StageFrame.vue";

const blank = { template: "<div />" };
const at = (name: string) => ({ path: `/jobs/:jobId/:variantId/${name}`, name, component: blank });
const router = createRouter({
  history: createMemoryHistory(),
  routes: [
    { path: "/jobs", name: "jobs", component: blank },
    ...STAGES.flatMap(({ route }) => (route ? [at(route)] : [])),
    ...["report", "rules"].map((name) => at(name)),
  ],
});
const JOB = {
  id: "j-1",
  name: "Marsh Wren",
  boat: { kind: "Motor-sailer", length_m: 11.8, notes: "" },
  variants: [
    { id: "v-1", name: "As found" },
    { id: "v-2", name: "Proposal A" },
  ],
};
const VERSION = { kind: "change", author: "bo", created: "2026-05-01T10:00:00Z", is_head: false };
let sent: { path: string; body: string }[] = [];

beforeEach(async () => {
  document.body.innerHTML = "";
  setActivePinia(createPinia());
  sent = [];
  vi.stubGlobal("visualViewport", new EventTarget());
  await router.push("/jobs/j-1/v-1/loads");
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname;
    sent.push({ path, body: request.method === "GET" ? "" : await request.text() });
    const survey_out = {
      revision: 1,
      job: "j-1",
      can_undo: "Boat: hull keel",
      can_redo: null,
      undo_at: "2026-05-01T11:00:00Z",
      redo_at: null,
      survey: survey(),
    };
    const answers: Record<string, unknown> = {
      "j-1": JOB,
      survey: survey_out,
      undo: survey_out,
      choices: choices(),
      scheme: scheme(),
      copy: scheme({ variant: "v-3", name: "Proposal B" }),
      findings: { revision: 1, survey_revision: 1, findings: [], confirm: "" },
      revisions: [{ ...VERSION, number: path.includes("survey") ? 4 : 2, words: "Moved it" }],
    };
    const headers = { "Content-Type": "application/json" };
    return new Response(JSON.stringify(answers[path.split("/").at(-1) ?? ""] ?? {}), { headers });
  });
});

let mounted: { unmount: () => void } | null = null;
afterEach(() => {
  mounted?.unmount();
  mounted = null;
});

async function frame() {
  const found = mount(
    {
      components: { StageFrame, VApp },
      template: `<VApp><StageFrame job-id="j-1" variant-id="v-1" stage="loads">
        <p>the work</p></StageFrame></VApp>`,
    },
    {
      global: { plugins: [vuetify, router], stubs: { transition: false } },
      attachTo: document.body,
    },
  );
  mounted = found;
  for (let n = 0; n < 8; n++) await flushPromises();
  return found;
}

async function press(name: string) {
  const button = [...document.querySelectorAll("button")].find(
    (b) => b.textContent?.trim() === name || b.getAttribute("aria-label") === name,
  );
  if (!button) throw new Error(`there is no button ${name}`);
  button.click();
  for (let n = 0; n < 6; n++) await flushPromises();
}

const page = () => document.body.textContent?.replace(/\s+/g, " ") ?? "";

describe("the frame of a stage", () => {
  it("opens the job and shows boat, variants, the ten stages and the work", async () => {
    await frame();
    expect(page()).toContain("Marsh WrenMotor-sailer 11.8 m · 38.7 ft");
    expect(page()).toContain("the work");
    const links = [...document.querySelectorAll(".rail a")].map((a) => a.getAttribute("href"));
    expect(links).toEqual(
      [
        "survey",
        "loads",
        "banks",
        "scheme",
        "runs",
        "day",
        "build",
        "prove",
        "log",
        "handover",
      ].map((stage) => `/jobs/j-1/v-1/${stage}`),
    );
    expect(document.querySelectorAll(".rail li")).toHaveLength(10);
    expect(document.querySelector(".rail [aria-current=step]")?.textContent).toContain("Loads");
    const variants = [...document.querySelectorAll(".variants a")];
    expect(variants.map((a) => a.getAttribute("href"))).toEqual([
      "/jobs/j-1/v-1/loads",
      "/jobs/j-1/v-2/loads",
    ]);
  });

  it("goes to a stage by its digit and undoes with U", async () => {
    await frame();
    window.dispatchEvent(new KeyboardEvent("keydown", { key: "3" }));
    await vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe("/jobs/j-1/v-1/banks"));
    window.dispatchEvent(new KeyboardEvent("keydown", { key: "u" }));
    await vi.waitFor(() => expect(sent.at(-1)?.path).toContain("/survey/undo"));
  });

  it("makes a proposal with the next free letter and goes there", async () => {
    await frame();
    await press("New proposal");
    await press("Make the proposal");
    const copy = sent.find((call) => call.path.endsWith("copy"));
    expect(JSON.parse(copy?.body ?? "{}")).toEqual({ name: "Proposal B" });
    expect(router.currentRoute.value.fullPath).toBe("/jobs/j-1/v-3/loads");
  });

  it("shows the history of the variant and of the survey", async () => {
    await frame();
    await press("History");
    expect(sent.at(-1)?.path).toBe("/api/variants/v-1/revisions");
    await press("Survey");
    expect(sent.at(-1)?.path).toBe("/api/jobs/j-1/survey/revisions");
    expect(page()).toContain("4 Moved it");
  });

  it("says why a boat cannot be opened, and stays", async () => {
    vi.stubGlobal("fetch", async () => new Response("{}", { status: 404 }));
    await frame();
    expect(router.currentRoute.value.name).toBe("loads");
  });
});

describe("the body of a stage", () => {
  function body(props: Record<string, unknown> = {}) {
    const parts = [
      { id: "banks", name: "Banks", count: 3 },
      { id: "gear", name: "Gear", count: 0 },
    ];
    useOpenJob().ids = { job: "j-1", variant: "v-1" };
    return mount(StageBody, {
      global: { plugins: [vuetify, router] },
      props: { title: "Survey", parts, part: "banks", findings: false, ...props },
      slots: { side: "<p>beside it</p>", default: "<p>the part</p>" },
    });
  }

  it("has its parts as tabs with what is to find out", async () => {
    const found = body();
    const tabs = found.findAll(".parts button");
    expect(tabs.map((t) => t.text().replace(/\s+/g, " "))).toEqual(["Banks 3 to find out", "Gear"]);
    await tabs[1]?.trigger("click");
    expect(found.emitted("update:part")).toEqual([["gear"]]);
    expect(found.find("aside").exists()).toBe(false);
  });

  it("shows findings beside it, or what the part has to show", async () => {
    const found = body({ findings: true });
    expect(found.get("aside").text()).toContain("These checks do not replace");
    await found.setProps({ findings: false, side: "To find out: 3" });
    expect(found.get("aside").text()).toContain("beside it");
    await found.get("aside button").trigger("click");
    expect(found.emitted("closeSide")).toHaveLength(1);
  });
});
