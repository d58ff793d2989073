/** Findings in groups: what they are about, where that stands, at which stage it is met. */
import type { Schemas } from "@/api/client";
import { SEVERITIES } from "@/shared/severity";

export type Finding = Schemas["Finding"];
type Design = Schemas["SchemeOut"]["design"];
export type Grouping = "severity" | "stage" | "place" | "rule";

export const STAGE_NAMES: Record<string, string> = {
  survey: "Survey",
  banks: "Banks",
  scheme: "Scheme",
  runs: "Runs",
};
const NOWHERE = "place not told";

/** Names of the places in which the parts of a finding stand. */
export function placesOf(finding: Finding, design: Design | null): string[] {
  const names = new Map(design?.places?.map((place) => [place.id, place.name]));
  const found = finding.parts.flatMap((id) => {
    const place = design?.components.find((part) => part.id === id)?.place;
    return place && names.has(place) ? [names.get(place) as string] : [];
  });
  return found.length ? [...new Set(found)] : [NOWHERE];
}

export interface Group {
  name: string;
  findings: Finding[];
}

export function groupsOf(
  findings: Finding[],
  by: Grouping,
  design: Design | null,
  stageOf: (finding: Finding) => string,
): Group[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    for (const name of namesOf(finding)) {
      groups.set(name, [...(groups.get(name) ?? []), finding]);
    }
  }
  return [...groups].map(([name, found]) => ({ name, findings: found }));

  function namesOf(finding: Finding): string[] {
    if (by === "severity") return [SEVERITIES[finding.severity].word];
    if (by === "stage") return [STAGE_NAMES[stageOf(finding)] ?? "Other"];
    if (by === "rule") return [finding.rule];
    return placesOf(finding, design);
  }
}
