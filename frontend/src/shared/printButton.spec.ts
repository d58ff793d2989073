import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { createVuetify } from "vuetify";

import { api } from "@/api/client";
import { useNotices } from "@/app/notices";

import PrintButton from "./PrintButton.vue";

const vuetify = createVuetify();
const print = (status: string, problem = "") => ({ id: "p1", name: "pack", status, problem });

/** A PDF that is told to be waiting first, and then as given. */
function asked(...later: ReturnType<typeof print>[]) {
  const told = [...later];
  vi.spyOn(api, "GET").mockImplementation((() =>
    Promise.resolve({ data: told.shift(), response: { ok: true } })) as never);
  const clicked = vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(() => {});
  const button = mount(PrintButton, {
    props: { ask: () => Promise.resolve(print("waiting") as never) },
    slots: { default: "Pack, PDF" },
    global: { plugins: [vuetify] },
  });
  return { button, clicked };
}

beforeEach(() => {
  setActivePinia(createPinia());
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("a button for a PDF", () => {
  it("says that it is computed, looks now and then, and hands it over once", async () => {
    const { button, clicked } = asked(print("running"), print("done"));
    expect(button.text()).toBe("Pack, PDF");
    await button.find("button").trigger("click");
    await flushPromises();
    expect(button.text()).toBe("Making the file");
    expect(button.find("button").attributes("disabled")).toBeDefined();
    expect(clicked).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(3000);
    expect(clicked).toHaveBeenCalledTimes(1);
    expect((clicked.mock.instances[0] as HTMLAnchorElement).href).toContain("/api/prints/p1/file");
    expect(button.text()).toBe("Pack, PDF");
  });

  it("says why there is none", async () => {
    const said = vi.spyOn(useNotices(), "said");
    const { button, clicked } = asked(print("failed", "the boat is too large"));
    await button.find("button").trigger("click");
    await vi.advanceTimersByTimeAsync(3000);
    expect(said).toHaveBeenCalledWith("No file: the boat is too large");
    expect(clicked).not.toHaveBeenCalled();
    expect(button.text()).toBe("Pack, PDF");
  });
});
