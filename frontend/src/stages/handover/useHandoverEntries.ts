/** Entries of the stage Handover: on this device first, then sent. */
import type { Schemas } from "@/api/client";
import { useUnsaved, type StageEntry } from "@/documents/unsaved";

export function useHandoverEntries() {
  const unsaved = useUnsaved();

  /** Keep an entry; `sent` is told once the server has it. Throws what that refuses at once. */
  return function enter(of: string, entry: Schemas["HandoverEntryIn"], sent: () => void) {
    const kept = unsaved.add<StageEntry>({
      sort: "entries",
      stage: "handover",
      of,
      entries: [entry],
    });
    return unsaved.deliver(kept, sent);
  };
}
