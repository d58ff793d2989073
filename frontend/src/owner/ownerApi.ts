/** What a link for an owner opens: asked with its secret, which stands in no address. */
import createClient from "openapi-fetch";

import { isUnknown, unwrap, type Schemas } from "@/api/client";
import type { paths } from "@/api/generated";
import { send } from "@/api/sending";

export type Owner = Schemas["OwnerOut"];
type Move = Schemas["OwnerDrillIn"]["moves"][number];

const SECRET = "strom.owner";
const SEEN = "strom.owner.seen";
const WAITING = "strom.owner.waiting";

/** The secret of the address that was opened, or of the one that was opened here before. */
export function secretOf(hash: string): string {
  const told = hash.replace(/^#/, "");
  if (told) localStorage.setItem(SECRET, told);
  return told || (localStorage.getItem(SECRET) ?? "");
}

/** Whether only an owner's link was ever opened on this device. */
export function isOwnersOnly(): boolean {
  return localStorage.getItem(SECRET) !== null && localStorage.getItem("strom.session") === null;
}

function client(secret: string) {
  return createClient<paths>({
    baseUrl: globalThis.location.origin,
    headers: { "Strom-Owner": secret },
    fetch: send,
  });
}

/** What the link opens now; `kept` is when it was read, where no answer came. */
export async function opened(
  secret: string,
  language?: Owner["language"],
): Promise<{ owner: Owner; kept: string | null }> {
  try {
    const params = { query: { language } };
    const owner = await unwrap(client(secret).GET("/api/owner", { params }));
    const kept = { secret, at: new Date().toISOString(), owner };
    localStorage.setItem(SEEN, JSON.stringify(kept));
    return { owner, kept: null };
  } catch (error) {
    const kept = isUnknown(error) ? seen(secret) : null;
    if (!kept) {
      // Revoked or expired: what was kept of it goes too.
      if (!isUnknown(error)) localStorage.removeItem(SEEN);
      throw error;
    }
    return { owner: kept.owner, kept: kept.at };
  }
}

function seen(secret: string): { at: string; owner: Owner } | null {
  try {
    const found = JSON.parse(localStorage.getItem(SEEN) ?? "null") as {
      secret: string;
      at: string;
      owner: Owner;
    } | null;
    return found?.secret === secret ? found : null;
  } catch {
    return null;
  }
}

/** Have the scenes computed that are not there yet. */
export function askScenes(secret: string) {
  return unwrap(client(secret).POST("/api/owner/drill"));
}

export function play(secret: string, language: Owner["language"], scene: string, moves: Move[]) {
  return unwrap(client(secret).POST("/api/owner/play", { body: { scene, moves, language } }));
}

/** What an owner entered: kept on the phone until the server has it. */
type Waiting =
  | { sort: "reading"; body: Schemas["OwnerReadingIn"] }
  | { sort: "result"; body: Schemas["HandoverEntryIn"] };

export function waiting(): Waiting[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(WAITING) ?? "[]");
    return Array.isArray(found) ? (found as Waiting[]) : [];
  } catch {
    return [];
  }
}

function keepWaiting(all: Waiting[]) {
  localStorage.setItem(WAITING, JSON.stringify(all));
}

function post(secret: string, entry: Waiting): Promise<unknown> {
  const api = client(secret);
  if (entry.sort === "reading")
    return unwrap(api.POST("/api/owner/readings", { body: entry.body }));
  return unwrap(api.POST("/api/owner/results", { body: { entries: [entry.body] } }));
}

/** Keep an entry, then send all that wait, in order; how many still wait. Throws a refusal. */
export async function enter(secret: string, entry?: Waiting): Promise<number> {
  if (entry) keepWaiting([...waiting(), entry]);
  for (const one of waiting()) {
    try {
      await post(secret, one);
    } catch (error) {
      if (isUnknown(error)) break;
      keepWaiting(waiting().filter((w) => w.body.id !== one.body.id));
      throw error;
    }
    keepWaiting(waiting().filter((w) => w.body.id !== one.body.id));
  }
  return waiting().length;
}
