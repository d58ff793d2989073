/** Answers of boats that were taken aboard: kept as they come, given when no other comes. */
import { ref, shallowRef } from "vue";

import { answerOf, keepAnswer, takenBy, type Taken } from "./device";

/** Posts that only compute: their answers are kept as those of reads are. */
const COMPUTES = /\/variants\/[^/]+\/(bench|positions)$/;
/** What is of no boat, and needed with any. */
const OF_ALL = /^\/api\/(jobs|choices|stock|service\/due)$/;
const ALL = "";

const person = ref("");
export const taken = shallowRef<Taken[]>([]);
/** When the oldest answer was computed that is shown in place of a new one; null while all are new. */
export const asOf = ref<string | null>(null);

/** From now on answers are those of somebody. */
export async function answersOf(name: string) {
  person.value = name;
  await lookAgain();
}

export async function lookAgain() {
  taken.value = person.value ? await takenBy(person.value).catch(() => []) : [];
}

/** A boat that addresses with one of its ids belong to; null where none of them is aboard. */
function jobOf(path: string): string | null {
  if (!taken.value.length) return null;
  if (OF_ALL.test(path)) return ALL;
  return taken.value.find((one) => one.ids.some((id) => path.includes(id)))?.job ?? null;
}

/** The address of a request whose answer may be kept; null for all others. */
export async function addressOf(
  request: Request,
): Promise<{ address: string; job: string } | null> {
  const url = new URL(request.url);
  const job = jobOf(url.pathname);
  const computes = request.method === "POST" && COMPUTES.test(url.pathname);
  if (job === ALL && url.search) return null; // what somebody looks for, and not the usual list
  if (job === null || (request.method !== "GET" && !computes)) return null;
  const body = computes ? ` ${stateOf(await request.clone().text())}` : "";
  return { address: `${request.method} ${url.pathname}${url.search}${body}`, job };
}

/** A state without what only says how it came about: relays as they stood before. */
export function stateOf(text: string): string {
  const state = JSON.parse(text) as Record<string, unknown>;
  delete state.previous_states;
  return JSON.stringify(state, Object.keys(state).concat(inner(state)).sort());
}

const inner = (state: Record<string, unknown>): string[] =>
  Object.values(state).flatMap((value) =>
    value && typeof value === "object" && !Array.isArray(value) ? Object.keys(value) : [],
  );

export async function keep(at: { address: string; job: string }, response: Response) {
  const text = await response.clone().text();
  const now = new Date().toISOString();
  try {
    await keepAnswer({ person: person.value, address: at.address, job: at.job, text, at: now });
  } catch {
    // A full device: what was kept before stays.
  }
}

/** The answer that was kept, as one of the server's; null where none was. */
export async function kept(at: { address: string }): Promise<Response | null> {
  const found = await answerOf(person.value, at.address).catch(() => undefined);
  if (!found) return null;
  if (asOf.value === null || found.at < asOf.value) asOf.value = found.at;
  return new Response(found.text, { headers: { "Content-Type": "application/json" } });
}
