/** The one client of the API: typed from its OpenAPI document, with the CSRF token on writes. */
import createClient, { type Middleware } from "openapi-fetch";

import type { components, paths } from "./generated";
import { away } from "./connection";
import { NoAnswerError, once, send, writeHeaders } from "./sending";

export type Schemas = components["schemas"];
export type Problem = Schemas["ProblemOut"];

/** A request that the server refused, with its reasons. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The token as it stands now: signing in changes it. */
function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

/** Asked when the session has ended in the middle of the work: true once somebody signed in again. */
let signInAgain: () => Promise<boolean> = () => Promise.resolve(false);
export function onSessionEnd(ask: () => Promise<boolean>) {
  signInAgain = ask;
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method === "GET") return request;
    for (const [name, value] of Object.entries(writeHeaders())) {
      if (!request.headers.has(name)) request.headers.set(name, value);
    }
    return request;
  },
};

/** Answers that are kept on this device: asked where no other comes. */
export interface KeptAnswers<At> {
  addressOf: (request: Request) => Promise<At | null>;
  kept: (at: At) => Promise<Response | null>;
  keep: (at: At, response: Response) => Promise<void>;
}
let keptAnswers: KeptAnswers<unknown> | null = null;

export function onReads<At>(answers: KeptAnswers<At>) {
  keptAnswers = answers as KeptAnswers<unknown>;
}

async function sendSigned(request: Request): Promise<Response> {
  const at = (await keptAnswers?.addressOf(request)) ?? null;
  if (at === null || !keptAnswers) return sendOnline(request);
  try {
    // Known to be away, nobody waits for a second try: there is an answer of before.
    const response = await (away.value ? once(request) : sendOnline(request));
    if (response.ok) await keptAnswers.keep(at, response);
    return response;
  } catch (error) {
    const before = await keptAnswers.kept(at);
    if (!before) throw error;
    away.value = true;
    return before;
  }
}

async function sendOnline(request: Request): Promise<Response> {
  const withCsrf = () => {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return send(request);
  };
  const response = await withCsrf();
  const ended = response.status === 401 && !new URL(request.url).pathname.endsWith("/session");
  return ended && (await signInAgain()) ? withCsrf() : response;
}

export const api = createClient<paths>({ baseUrl: window.location.origin, fetch: sendSigned });
api.use(withToken);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The answer's data; throws a ProblemError when the server refused. */
export async function unwrap<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch (error) {
    throw new ProblemError(noAnswer(error instanceof NoAnswerError && error.wrote));
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Problem | undefined;
  throw new ProblemError(
    problem?.detail ? problem : { ...noAnswer(false), status: answer.response.status },
  );
}

/** Whether nobody knows what became of a request. */
export function isUnknown(error: unknown): error is ProblemError {
  return error instanceof ProblemError && error.problem.status === 0;
}

function noAnswer(wrote: boolean): Problem {
  const detail = wrote
    ? "The server does not answer. Whether this was saved is not known yet."
    : "The server does not answer. What is shown may be older than what is saved.";
  return { type: "about:blank", title: "No answer", status: 0, detail, errors: [] };
}
