/** The stage Prove: tests of the server, and entries with ids that are made here. */
import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import type { StageValue } from "@/documents/unsaved";
import { useEntries } from "@/documents/useEntries";

export type Prove = Schemas["ProveOut"];
export type ProvingTest = Schemas["ProvingTest"];
export type Answer = Schemas["TestState"]["answer"];
export type NewEntry = Pick<Schemas["ProveEntryIn"], "kind" | "target"> &
  Partial<Schemas["ProveEntryIn"]>;

/** Mark, word and colour of each answer. */
export const ANSWERS: Record<Answer, { mark: string; word: string; color: string }> = {
  within: { mark: "✓", word: "within", color: "success" },
  yes: { mark: "✓", word: "as it should be", color: "success" },
  doubtful: { mark: "◆", word: "doubtful", color: "warning" },
  outside: { mark: "▲", word: "outside", color: "error" },
  no: { mark: "▲", word: "not so", color: "error" },
  impossible: { mark: "?", word: "not to be believed", color: "error" },
  waived: { mark: "●", word: "waived", color: "info" },
  open: { mark: "☐", word: "not tested", color: "ink" },
};

/** Readings that wait stand with their tests, not judged: that is computed when they are sent. */
function withWaiting(prove: Prove, waiting: StageValue[]): Prove {
  const states = { ...prove.states };
  let today = prove.today;
  for (const one of waiting) {
    const entry = { ...one, author: null, outdated: false } as Schemas["ProveEntryOut"];
    const state = states[entry.target];
    if (state) states[entry.target] = { ...state, entries: [entry, ...state.entries] };
    if (entry.kind === "today") today = { ...today, ...(one as { today?: object }).today };
  }
  const told = new Set(waiting.map((one) => one.target));
  const open = prove.tests.find((t) => states[t.key]?.answer === "open" && !told.has(t.key));
  return { ...prove, states, today, next: open?.key ?? null };
}

export function useProve() {
  const notices = useNotices();
  const stage = useEntries<Prove>(
    "prove",
    (params) => unwrap(api.GET("/api/variants/{variant_id}/prove", { params })),
    withWaiting,
  );

  /** Enter something; what stands after it, or null when it is refused. */
  const enter = (...made: NewEntry[]): Promise<Prove | null> => stage.enter(...made);

  /** What the connected meter shows for a test; null when it does not answer. */
  async function fromMeter(test: string): Promise<Schemas["MeterOut"] | null> {
    const params = { path: { variant_id: stage.report.value?.variant ?? "" } };
    try {
      return await unwrap(
        api.POST("/api/variants/{variant_id}/prove/meter", { params, body: { test } }),
      );
    } catch (error) {
      notices.failed(error);
      return null;
    }
  }

  /** What may be wrong by all readings so far, or about one miss; null when it cannot be told. */
  async function diagnose(about: string): Promise<Schemas["DiagnosisOut"] | null> {
    const path = { variant_id: stage.report.value?.variant ?? "" };
    const params = { path, query: { about } };
    try {
      return await unwrap(api.GET("/api/variants/{variant_id}/prove/diagnosis", { params }));
    } catch (error) {
      notices.failed(error);
      return null;
    }
  }

  /** The proving record, made by a worker. */
  function record(told: Partial<Schemas["RecordIn"]>) {
    const params = { path: { variant_id: stage.report.value?.variant ?? "" } };
    const body = told as Schemas["RecordIn"];
    return unwrap(api.POST("/api/variants/{variant_id}/prove/record", { params, body }));
  }

  return { prove: stage.report, sending: stage.sending, enter, fromMeter, diagnose, record };
}
