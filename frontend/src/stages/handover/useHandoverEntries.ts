/** Entries of the stage Handover: on this device first, then sent. */
import { newId } from "@/api/sending";
import type { Schemas } from "@/api/client";
import { useUnsaved, type StageEntry } from "@/documents/unsaved";

type Entry = Schemas["HandoverEntryIn"];

export function useHandoverEntries(told: { variantId: string; revision: number }) {
  const unsaved = useUnsaved();

  /** Keep an entry; `sent` is told once the server has it. Throws what that refuses at once. */
  function enter(fields: Pick<Entry, "kind" | "target"> & Partial<Entry>, sent: () => void) {
    const plain = { id: newId(), at: new Date().toISOString(), revision: told.revision };
    const entry = unsaved.add<StageEntry>({
      sort: "entries",
      stage: "handover",
      of: told.variantId,
      entries: [{ ...plain, ...fields }],
    });
    return unsaved.deliver(entry, sent);
  }

  return { enter };
}
