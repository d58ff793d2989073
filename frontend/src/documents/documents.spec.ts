import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { scheme } from "@/shared/tests/samples";

import { useOpenJob } from "./openJob";
import { useScheme } from "./schemeStore";
import { useSurvey } from "./surveyStore";

interface Sent {
  path: string;
  body: Record<string, unknown>;
}
let sent: Sent[] = [];
let revision = 1;
let undoAt = { scheme: "2026-05-01T10:00:00Z", survey: "2026-05-01T11:00:00Z" };
const ITEMS = [
  { id: "fridge", name: "Refrigerator", draw: 4 },
  { id: "lamp", name: "Lamp", draw: 1 },
];

function survey(changes = {}) {
  const item = ITEMS.map((row) => ({ ...row }));
  return {
    job: "j-1",
    revision,
    can_undo: "Refrigerator: draw 3 to 4",
    can_redo: null,
    undo_at: undoAt.survey,
    redo_at: null,
    survey: { items: item },
    loads: null,
    ...changes,
  };
}

async function serve(request: Request): Promise<Response> {
  const path = new URL(request.url).pathname;
  const text = request.method === "GET" ? "" : await request.text();
  sent.push({ path, body: text ? JSON.parse(text) : {} });
  const ending = path.split("/").at(-1) ?? "";
  if (path.includes("/survey/")) revision += 1;
  const saved = { can_undo: "Moved a cable", undo_at: undoAt.scheme, survey_revision: revision };
  const answers: Record<string, unknown> = {
    "j-1": { id: "j-1", name: "Boat", variants: [] },
    choices: { loads: [] },
    findings: { revision: 1, survey_revision: 1, findings: [], confirm: "" },
    scheme: scheme(saved),
    survey: survey(),
    changes: path.includes("/survey/") ? survey() : scheme({ revision: 2 }),
    undo: path.includes("/survey/") ? survey({ undo_at: null, can_undo: null }) : scheme(),
  };
  return new Response(JSON.stringify(answers[ending] ?? {}), {
    headers: { "Content-Type": "application/json" },
  });
}

const paths = () => sent.map((call) => call.path.split("/").slice(-2).join("/"));

beforeEach(async () => {
  setActivePinia(createPinia());
  [sent, revision] = [[], 1];
  undoAt = { scheme: "2026-05-01T10:00:00Z", survey: "2026-05-01T11:00:00Z" };
  vi.stubGlobal("fetch", serve);
});

describe("a job that is open", () => {
  it("undoes what was done last, of survey and variant", async () => {
    const open = useOpenJob();
    await open.open("j-1", "v-1");
    expect(open.canUndo).toBe("Refrigerator: draw 3 to 4");
    await open.undo();
    expect(paths().at(-1)).toBe("survey/undo");
    expect(open.canUndo).toBe("Moved a cable");
    await open.undo();
    expect(paths()).toContain("v-1/undo");
  });

  it("undoes the variant first when that was changed later", async () => {
    undoAt.scheme = "2026-05-01T12:00:00Z";
    const open = useOpenJob();
    await open.open("j-1", "v-1");
    expect(open.canUndo).toBe("Moved a cable");
  });

  it("reads the design again once the survey has moved on", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "Date"] });
    const open = useOpenJob();
    await open.open("j-1", "v-1");
    sent = [];
    await useSurvey().set("boat", { coldest_c: 2 });
    await vi.advanceTimersByTimeAsync(400);
    expect(paths()).toEqual(expect.arrayContaining(["survey/changes", "v-1/scheme"]));
    expect(useScheme().scheme?.survey_revision).toBe(2);
    vi.useRealTimers();
  });
});

describe("a change of the survey", () => {
  it("carries its revision, asks for the audit that is shown, and keeps rows that stay", async () => {
    const surveys = useSurvey();
    await surveys.open("j-1");
    surveys.loadsOf = "v-1";
    const before = surveys.survey?.items;
    await surveys.put("items", { id: "lamp", draw: 2 });
    expect(sent.at(-1)?.body).toEqual({
      base_revision: 1,
      change: { type: "put_rows", list: "items", rows: [{ id: "lamp", draw: 2 }] },
      loads_of: "v-1",
    });
    expect(surveys.survey?.items[0]).toBe(before?.[0]);
  });
});
