/** Entries of the stage Handover: on this device first, then sent. */
import { useUnsaved, type StageEntry } from "@/documents/unsaved";
import { handoverEntry } from "@/handover/handoverEntry";

export function useHandoverEntries(told: { variantId: string; revision: number }) {
  const unsaved = useUnsaved();

  /** Keep an entry; `sent` is told once the server has it. Throws what that refuses at once. */
  function enter(fields: Parameters<typeof handoverEntry>[1], sent: () => void) {
    const entry = unsaved.add<StageEntry>({
      sort: "entries",
      stage: "handover",
      of: told.variantId,
      entries: [handoverEntry(told.revision, fields)],
    });
    return unsaved.deliver(entry, sent);
  }

  return { enter };
}
