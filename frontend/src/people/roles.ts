/** Roles in words, the least first, and what each may do. */
import type { Schemas } from "@/api/client";
import { dayAndHour } from "@/shared/formats";

export type Role = Schemas["PersonOut"]["role"];

export const ROLES: { id: Role; words: string; may: string }[] = [
  { id: "reader", words: "Reader", may: "looks at everything and changes nothing" },
  { id: "electrician", words: "Electrician", may: "works on all boats" },
  { id: "owner", words: "Owner", may: "also people and the log of who did what" },
];

export const roleWords = (role: Role) => ROLES.find((one) => one.id === role)?.words ?? role;

const BROWSERS: [RegExp, string][] = [
  [/Firefox\//, "Firefox"],
  [/Edg\//, "Edge"],
  [/Chrom(e|ium)\//, "Chromium or Chrome"],
  [/Safari\//, "Safari"],
];
const SYSTEMS: [RegExp, string][] = [
  [/Android/, "Android"],
  [/iPhone|iPad/, "iOS"],
  [/Windows/, "Windows"],
  [/Mac OS X/, "macOS"],
  [/Linux/, "Linux"],
];
const named = (list: [RegExp, string][], text: string) => list.find(([is]) => is.test(text))?.[1];

/** What a browser says of itself, in a few words. */
export function browserWords(told: string): string {
  const [browser, system] = [named(BROWSERS, told), named(SYSTEMS, told)];
  if (!browser && !system) return told.slice(0, 60) || "a browser that says nothing of itself";
  return [browser ?? "A browser", system && `on ${system}`].filter(Boolean).join(" ");
}

/** A day and hour as they stand on this device. */
export const when = (at: string | null) => (at ? dayAndHour(at) : "never");
