/** The stage Log: what is kept of the boat over the years, and entries with ids made here. */
import { api, unwrap, type Schemas } from "@/api/client";
import type { StageValue } from "@/documents/unsaved";
import { useEntries } from "@/documents/useEntries";

export type Log = Schemas["LogOut"];
export type LogEntry = Schemas["LogEntryOut"];
export type LogTarget = Schemas["TargetOut"];
export type NewLogEntry = Pick<Schemas["LogEntryIn"], "kind" | "target"> &
  Partial<Schemas["LogEntryIn"]>;
export type LogStage = ReturnType<typeof useLog>;

/** Mark, word and colour of what a reading says. */
export const MARKS: Record<string, { mark: string; word: string; color: string }> = {
  good: { mark: "✓", word: "good", color: "success" },
  caution: { mark: "◆", word: "look at it", color: "warning" },
  bad: { mark: "▲", word: "bad", color: "error" },
  unknown: { mark: "?", word: "nothing to hold it against", color: "info" },
};
/** Mark, word and colour of a service by how it stands. */
export const STANDINGS: Record<string, { mark: string; word: string; color: string }> = {
  overdue: { mark: "▲", word: "overdue", color: "error" },
  soon: { mark: "◆", word: "due soon", color: "warning" },
  later: { mark: "✓", word: "later", color: "success" },
};

/** Entries that wait stand above all others, not judged. */
function withWaiting(log: Log, waiting: StageValue[]): Log {
  const names = new Map(log.targets.map((t) => [t.id, t.name]));
  const plain = { author: null, judgement: null, open: false, ended: null, ended_words: "" };
  const shown = waiting.map(
    (one) =>
      ({ ...plain, ...one, target_name: names.get(one.target) ?? "" }) as unknown as LogEntry,
  );
  return { ...log, entries: [...shown.reverse(), ...log.entries] };
}

export function useLog() {
  const stage = useEntries<Log>(
    "log",
    (params) => unwrap(api.GET("/api/variants/{variant_id}/log", { params })),
    withWaiting,
  );

  /** Enter something; whether it is kept, here or by the server. */
  const enter = async (...made: NewLogEntry[]) => (await stage.enter(...made)) !== null;

  return { log: stage.report, sending: stage.sending, enter };
}
