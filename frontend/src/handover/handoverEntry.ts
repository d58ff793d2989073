/** An entry of the stage Handover, with the id and the time of this device. */
import type { Schemas } from "@/api/client";
import { newId } from "@/api/sending";

type Entry = Schemas["HandoverEntryIn"];

export function handoverEntry(
  revision: number,
  fields: Pick<Entry, "kind" | "target"> & Partial<Entry>,
): Entry {
  return { id: newId(), at: new Date().toISOString(), revision, ...fields };
}
