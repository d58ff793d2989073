/** The one client of the API: typed from its OpenAPI document, with the CSRF token on writes. */
import createClient, { type Middleware } from "openapi-fetch";

import type { components, paths } from "./generated";

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

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
};

export const api = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});
api.use(withToken);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The answer's data; throws a ProblemError when the server refused. */
export async function told<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new ProblemError(unreachable);
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Problem | undefined;
  throw new ProblemError(
    problem?.detail ? problem : { ...unreachable, status: answer.response.status },
  );
}

const unreachable: Problem = {
  type: "about:blank",
  title: "No answer",
  status: 0,
  detail: "The server does not answer. Nothing was lost: what is shown was saved.",
  errors: [],
};
