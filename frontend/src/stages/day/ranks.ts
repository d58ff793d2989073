/** Ranks of consequence and tones of the verdict as mark, word and colour. */
import type { Schemas } from "@/api/client";

type Rank = Schemas["Consequence"]["rank"];
type Tone = Schemas["Sentence"]["tone"];

export const RANKS: Record<Rank, { mark: string; word: string; color: string }> = {
  hazard: { mark: "▲", word: "Hazard", color: "error" },
  stranded: { mark: "▲", word: "Stranded", color: "error" },
  load_lost: { mark: "■", word: "Load lost", color: "warning" },
  charge_lost: { mark: "◆", word: "Charge lost", color: "warning" },
  none: { mark: "✓", word: "Nothing", color: "success" },
};

export const TONES: Record<Tone, { mark: string; color: string }> = {
  good: { mark: "✓", color: "success" },
  caution: { mark: "◆", color: "warning" },
  bad: { mark: "■", color: "error" },
};

/** What a whole day is called by its rank. */
export const DAYS: Record<Rank, string> = {
  hazard: "Somebody or something can get hurt",
  stranded: "The engine does not start",
  load_lost: "Something aboard goes without",
  charge_lost: "It holds, but wears or falls short",
  none: "It holds",
};
