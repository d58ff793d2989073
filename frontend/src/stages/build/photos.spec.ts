import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { IDBFactory } from "fake-indexeddb";
import { expect, it, vi } from "vitest";

import { closed } from "@/aboard/device";
import { away } from "@/api/connection";
import { useSession } from "@/app/session";
import { vuetify } from "@/app/theme";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { useUnsaved } from "@/documents/unsaved";
import { scheme } from "@/shared/tests/samples";

import PhotosOf from "./PhotosOf.vue";

it("a photograph of a part is shown from the device while it waits, under the part alone", async () => {
  globalThis.indexedDB = new IDBFactory();
  closed();
  setActivePinia(createPinia());
  const build = {
    variant: "v",
    revision: 1,
    book: { order: { start: [], steps: [] } },
    state: { ticks: {}, received: {}, lengths: {}, notes: [], photos: [], lost: [] },
  };
  vi.stubGlobal("fetch", (request: Request) =>
    request.method === "GET" && request.url.endsWith("/build")
      ? Promise.resolve(new Response(JSON.stringify(build)))
      : Promise.reject(new TypeError("Failed to fetch")),
  );
  URL.createObjectURL = () => "blob:here";
  URL.revokeObjectURL = vi.fn();
  useSession().session = {
    signed_in: true,
    username: "anna",
    workshop: "W",
    demo_available: false,
    role: "owner",
    code_wanted: false,
    formats: null,
  };
  useOpenJob().ids = { job: "j", variant: "v" };
  useScheme().scheme = { ...scheme(), variant: "v" };
  const props = { target: "relay", words: "Combining relay", what: "part" } as const;
  const page = mount(PhotosOf, { props, global: { plugins: [vuetify] } });
  await flushPromises();
  expect(page.text()).toContain("No photograph of this part yet.");
  const input = page.get("input");
  const file = new File(["x"], "relay.jpg", { type: "image/jpeg" });
  Object.defineProperty(input.element, "files", { value: [file] });
  await input.trigger("change");
  away.value = true;
  await vi.waitFor(() => expect(page.findAll("img")).toHaveLength(1));
  expect(page.get("img").attributes("src")).toBe("blob:here");
  expect(page.get("img").attributes("alt")).toContain("Combining relay");
  const [photo, entry] = useUnsaved().waiting;
  expect(photo).toMatchObject({ sort: "photo", of: "j", caption: "Combining relay" });
  expect(entry).toMatchObject({ sort: "entries", stage: "build", entries: [{ target: "relay" }] });
  await page.setProps({ target: "bar" });
  expect(page.findAll("img")).toHaveLength(0);
  page.unmount();
  expect(URL.revokeObjectURL).toHaveBeenCalledWith("blob:here");
  away.value = false;
});
