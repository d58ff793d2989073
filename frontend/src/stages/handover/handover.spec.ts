import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";

import type { Schemas } from "@/api/client";

import SheetSection from "@/handover/SheetSection.vue";

const FACE = {
  switch: "s",
  name: "Main selector",
  position: "2",
  mark: "2 (House)",
  place: "Helm",
};
const LINE = {
  key: "never.engine_off",
  head: "Never turn it off",
  text: "It breaks.",
  link: "scheme",
};

function section(id: string, ...lines: object[]) {
  return mount(SheetSection, {
    props: {
      section: { id, title: "Never", lines } as unknown as Schemas["SaidSection"],
      boat: { jobId: "j", variantId: "v" },
    },
    global: { stubs: { RouterLink: { template: "<a><slot /></a>" } } },
  });
}

describe("the owner's sheet", () => {
  it("shows switches in the boat's own words, and where a number was computed", () => {
    const page = section("never", { ...LINE, switches: [FACE] });
    expect(page.find("article").classes()).toContain("never");
    expect(page.find("h3").text()).toBe("▲ Never turn it off");
    expect(page.find(".face strong").text()).toBe("2 (House)");
    expect(page.find(".face").text()).toContain("Helm");
    expect(page.find("a").text()).toBe("Scheme");
  });

  it("leads nowhere where nothing was computed, and an empty part is left out", () => {
    const plain = section("situations", { ...LINE, link: "", switches: [] });
    expect(plain.find("a").exists()).toBe(false);
    expect(plain.find("h3").text()).toBe("Never turn it off");
    expect(section("never").text()).toBe("");
  });
});
