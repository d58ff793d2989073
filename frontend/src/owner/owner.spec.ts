import { beforeEach, describe, expect, it, vi } from "vitest";

import { enter, isOwnersOnly, opened, secretOf, waiting } from "./ownerApi";

let there = true;
let status = 200;
let sent: { path: string; secret: string | null; body: unknown }[] = [];

async function serve(request: Request): Promise<Response> {
  if (!there) throw new TypeError("Failed to fetch");
  const body: unknown = request.method === "GET" ? null : await request.json();
  const path = new URL(request.url).pathname;
  sent.push({ path, secret: request.headers.get("Strom-Owner"), body });
  const text =
    status === 200 ? { boat: "Wren" } : { title: "No", status, detail: "no", errors: [] };
  return new Response(JSON.stringify(text), { status });
}

const reading = (id: string) => ({
  sort: "reading" as const,
  body: { id, at: "2026-05-01T08:00:00Z", bank: "house_bank", volts_v: 12.4, rested_h: 0 },
});

beforeEach(() => {
  localStorage.clear();
  [there, status, sent] = [true, 200, []];
  vi.stubGlobal("fetch", serve);
  vi.spyOn(navigator, "onLine", "get").mockImplementation(() => there);
});

describe("an owner's link", () => {
  it("is known again where the address is opened without its secret", () => {
    expect(secretOf("#abc")).toBe("abc");
    expect(secretOf("")).toBe("abc");
    expect(isOwnersOnly()).toBe(true);
    localStorage.setItem("strom.session", "{}"); // somebody of the workshop looked at it
    expect(isOwnersOnly()).toBe(false);
  });

  it("is read without a network as it was, by its own secret alone, until it is revoked", async () => {
    await opened("abc");
    expect(sent[0]).toEqual({ path: "/api/owner", secret: "abc", body: null });
    there = false;
    const again = await opened("abc");
    expect(again.owner.boat).toBe("Wren");
    expect(again.kept).not.toBeNull();
    await expect(opened("other")).rejects.toThrow();
    [there, status] = [true, 401];
    await expect(opened("abc")).rejects.toThrow("no");
    there = false;
    await expect(opened("abc")).rejects.toThrow("does not answer");
  });

  it("keeps what was read until it is sent, in order, and not what is refused", async () => {
    there = false;
    expect(await enter("abc", reading("1"))).toBe(1);
    expect(await enter("abc", reading("2"))).toBe(2);
    expect(waiting().map((w) => w.body.id)).toEqual(["1", "2"]);
    there = true;
    expect(await enter("abc")).toBe(0);
    expect(sent.map((s) => (s.body as { id: string }).id)).toEqual(["1", "2"]);
    status = 422;
    await expect(enter("abc", reading("3"))).rejects.toThrow("no");
    expect(waiting()).toEqual([]);
  });
});
