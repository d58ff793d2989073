/** The stage Runs: its report, and the edits of cables that its table makes. */
import { api, unwrap, type Schemas } from "@/api/client";
import type { Fields } from "@/documents/saved";
import { useSurvey } from "@/documents/surveyStore";
import { useScheme } from "@/documents/schemeStore";
import { useReport } from "@/documents/useReport";

export type RunRow = Schemas["RunRow"];
export type Leg = Schemas["LegRow"];
export type { Fields };

export const VERDICTS: Record<RunRow["verdict"], { mark: string; word: string; color: string }> = {
  good: { mark: "✓", word: "good", color: "success" },
  weak: { mark: "◆", word: "low confidence", color: "warning" },
  bad: { mark: "■", word: "not to the standard", color: "error" },
};

/** How high a row is: a line at a desk, a card on a phone [px]. */
export const ROW_PX = { wide: 58, narrow: 176 };

export function useRuns() {
  const schemes = useScheme();
  const surveys = useSurvey();

  /** What came back with the last change of cables, where nothing else has moved since. */
  const fresh = () => {
    const found = schemes.runs;
    const same =
      found?.revision === schemes.scheme?.revision &&
      found?.survey_revision === surveys.saved?.revision;
    return same ? found : null;
  };

  const { report, asking } = useReport<Schemas["RunsOut"]>(
    "runs",
    (variant) =>
      unwrap(
        api.GET("/api/variants/{variant_id}/runs", { params: { path: { variant_id: variant } } }),
      ),
    fresh,
    true,
  );
  return { report, asking };
}

/** The same figures for every cable of a run, or for one of them. */
export function fieldsFor(row: RunRow, fields: Fields, only?: string): Schemas["CableFields"][] {
  return row.legs
    .filter((leg) => !only || leg.cable === only)
    .map((leg) => ({ cable: leg.cable, fields }));
}
