/** The stage Log: what is kept of the boat over the years, and entries with ids made here. */
import { api, unwrap, type Schemas } from "@/api/client";
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

export const onDay = (iso: string) => new Date(iso).toLocaleDateString();

export function useLog() {
  const stage = useEntries<Log>("log", (params) =>
    unwrap(api.GET("/api/variants/{variant_id}/log", { params })),
  );

  /** Send entries; whether they are kept. */
  async function enter(...made: NewLogEntry[]): Promise<boolean> {
    const kept = await stage.kept((log, params) => {
      const entries = stage.stamped(log, made);
      return unwrap(
        api.POST("/api/variants/{variant_id}/log/entries", { params, body: { entries } }),
      );
    });
    return kept !== null;
  }

  return { log: stage.report, sending: stage.sending, enter };
}
