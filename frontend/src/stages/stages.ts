/** The ten stages in the order in which the work is done; the digit is the key that jumps there. */
export type BuiltStage =
  "survey" | "loads" | "banks" | "scheme" | "runs" | "day" | "build" | "prove" | "log" | "handover";

/** A stage, or the first screen of a boat aboard. */
export type Screen = BuiltStage | "today";

export interface Stage {
  digit: string;
  name: string;
  route: BuiltStage;
}

export const STAGES: Stage[] = [
  { digit: "1", name: "Survey", route: "survey" },
  { digit: "2", name: "Loads", route: "loads" },
  { digit: "3", name: "Banks", route: "banks" },
  { digit: "4", name: "Scheme", route: "scheme" },
  { digit: "5", name: "Runs", route: "runs" },
  { digit: "6", name: "Day", route: "day" },
  { digit: "7", name: "Build", route: "build" },
  { digit: "8", name: "Prove", route: "prove" },
  { digit: "9", name: "Log", route: "log" },
  { digit: "0", name: "Handover", route: "handover" },
];
