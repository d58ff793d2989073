/** Where the work on a boat stands, in the order in which it goes on. */
import type { Schemas } from "@/api/client";

export type State = Schemas["JobOut"]["state"];

const WORDS: Record<State, string> = {
  enquiry: "Enquiry",
  surveyed: "Surveyed",
  proposed: "Proposed",
  building: "Building",
  proved: "Proved",
  handed_over: "Handed over",
};

export const STATES = Object.entries(WORDS).map(([id, words]) => ({ id: id as State, words }));
