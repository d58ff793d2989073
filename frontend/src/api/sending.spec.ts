import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { send } from "./sending";

const ADVICE = "http://boat.example/api/advice";

function answers(...statuses: number[]) {
  const fetch = vi.fn<typeof globalThis.fetch>();
  for (const status of statuses) fetch.mockResolvedValueOnce(new Response(null, { status }));
  fetch.mockImplementation(() => Promise.resolve(new Response(null, { status: 202 })));
  vi.stubGlobal("fetch", fetch);
  return fetch;
}

describe("what takes the workers seconds", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("is asked for with the same request until it is there", async () => {
    const fetch = answers(202, 202, 200);
    const request = new Request(ADVICE, { method: "POST", body: "{}", headers: { "X-Id": "1" } });
    const response = send(request);
    await vi.advanceTimersByTimeAsync(2_000);
    expect((await response).status).toBe(200);
    expect(fetch).toHaveBeenCalledTimes(3);
    const sent = await Promise.all(fetch.mock.calls.map(([asked]) => (asked as Request).text()));
    expect(sent).toEqual(["{}", "{}", "{}"]);
  });

  it("ends in words when the workers do not come to it", async () => {
    const fetch = answers();
    const response = send(new Request(ADVICE));
    await vi.advanceTimersByTimeAsync(200_000);
    const told = await response;
    expect(told.status).toBe(503);
    expect(((await told.json()) as { detail: string }).detail).toContain("workers are busy");
    expect(fetch.mock.calls.length).toBeLessThan(260);
  });
});
