import { describe, expect, it } from "vitest";

import { ProblemError, unwrap } from "./client";

function answer(status: number, error?: unknown, data?: unknown) {
  return Promise.resolve({ data, error, response: new Response(null, { status }) });
}

describe("unwrap", () => {
  it("gives the data of a good answer", async () => {
    expect(await unwrap(answer(200, undefined, { name: "Marsh Wren" }))).toEqual({
      name: "Marsh Wren",
    });
  });

  it("throws the server's own problem with all of its reasons", async () => {
    const problem = {
      type: "about:blank",
      title: "Not a valid design",
      status: 422,
      detail: "two things are wrong",
      errors: [{ path: "cables[0].length_m", message: "must be above 0" }],
    };
    const error = await unwrap(answer(422, problem)).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(ProblemError);
    expect((error as ProblemError).problem.errors[0]?.path).toBe("cables[0].length_m");
  });

  it.each([
    ["an answer that is no problem document", () => answer(502, "<html>")],
    ["no answer at all", () => Promise.reject(new TypeError("Failed to fetch"))],
  ])("puts words to %s", async (_, request) => {
    const error = await unwrap(request() as ReturnType<typeof answer>).catch((e: unknown) => e);
    expect((error as ProblemError).message).toContain("does not answer");
  });
});
