/** How requests are sent: each write with an id of its own, and again while no answer comes. */

const READ_METHODS = ["GET", "HEAD"];
/** What stands between here and the server says that it is not there, or not yet. */
const NO_SERVER = [502, 503, 504];
const PAUSES_MS = [300, 1200];
const ONCE_MS = 4000;

/** No answer came: whether a write was saved is not known. */
export class NoAnswerError extends Error {
  constructor(readonly wrote: boolean) {
    super("no answer");
  }
}

/** A random id. `crypto.randomUUID` is not there where a page comes without TLS, as aboard. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

/** This window: what it saved before never clashes with what it saves next. */
export const windowId = (() => {
  const kept = sessionStorage.getItem("strom.window");
  if (kept) return kept;
  const made = newId();
  sessionStorage.setItem("strom.window", made);
  return made;
})();

export type WriteHeaders = { "Idempotency-Key": string; "Strom-Window": string };

/** Headers of one write: sent again with the same ones, it is saved once. */
export function writeHeaders(key = newId(), window = windowId): WriteHeaders {
  return { "Idempotency-Key": key, "Strom-Window": window };
}

function pause(ms: number): Promise<void> {
  return new Promise((go) => setTimeout(go, ms));
}

/** Send a request a single time, and wait no longer than a phone's owner does. */
export async function once(request: Request): Promise<Response> {
  try {
    const init = { signal: AbortSignal.timeout(ONCE_MS) };
    const response = await globalThis.fetch(request.clone(), init);
    if (!NO_SERVER.includes(response.status)) return response;
  } catch {
    // Nothing came back.
  }
  throw new NoAnswerError(!READ_METHODS.includes(request.method));
}

/** What takes the server's workers seconds is asked for again and again until it is there. */
const AT_WORK = 202;
const LOOKS_MS = [100, 150, 250, 400, 600];
const LONGEST_MS = 180_000;

/**
 * Send a request, again with the same id where no answer came, and again while the server's
 * workers are at it. Throws a NoAnswerError.
 */
export async function send(request: Request): Promise<Response> {
  const ends = Date.now() + LONGEST_MS;
  for (let looked = 0; ; looked += 1) {
    const response = await answered(request);
    if (response.status !== AT_WORK) return response;
    if (Date.now() > ends) return busy();
    await pause(LOOKS_MS[looked] ?? 800);
  }
}

function busy(): Response {
  const detail = `The server's workers are busy: nothing came of this within ${LONGEST_MS / 60_000} minutes. Ask again.`;
  const problem = { type: "about:blank", title: "Busy", status: 503, detail, errors: [] };
  const headers = { "Content-Type": "application/json" };
  return new Response(JSON.stringify(problem), { status: 503, headers });
}

async function answered(request: Request): Promise<Response> {
  const wrote = !READ_METHODS.includes(request.method);
  for (let tried = 0; ; tried += 1) {
    try {
      const response = await globalThis.fetch(request.clone());
      if (!NO_SERVER.includes(response.status)) return response;
    } catch {
      // Nothing came back: below it is tried again.
    }
    // Without any network a second try tells nothing new.
    const wait = navigator.onLine === false ? undefined : PAUSES_MS[tried];
    if (wait === undefined) throw new NoAnswerError(wrote);
    await pause(wait);
  }
}
