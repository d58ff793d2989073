/** A finding's severity as mark, word and colour: never colour alone. */
import type { Schemas } from "@/api/client";

export type Severity = Schemas["Finding"]["severity"];

export const SEVERITIES: Record<Severity, { mark: string; word: string; color: string }> = {
  danger: { mark: "▲", word: "danger", color: "error" },
  fault: { mark: "■", word: "fault", color: "warning" },
  caution: { mark: "◆", word: "caution", color: "warning" },
  cannot_tell: { mark: "?", word: "cannot tell", color: "info" },
  note: { mark: "●", word: "note", color: "success" },
};
