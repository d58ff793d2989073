import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { vuetify } from "@/app/theme";
import { useNotices } from "@/app/notices";
import { useSurvey } from "@/documents/surveyStore";

import LoadTable from "./LoadTable.vue";
import MeasureSection from "./MeasureSection.vue";

const item = (id: string, group: string, draw: number | null) => ({
  id,
  name: id,
  group,
  draw,
  unit: "A",
  current: "dc",
  duty: 1,
  basis: "assumed",
  standing: false,
  uses: { at_anchor: { hours: 4 } },
});

function surveyed() {
  const surveys = useSurvey();
  surveys.saved = {
    revision: 1,
    survey: {
      profiles: [{ id: "at_anchor", name: "At anchor" }],
      items: [item("fridge", "Galley", 4), item("lamp", "Lights", 1), item("pump", "Galley", null)],
      measurements: [],
    },
  } as never; // only what the table looks at
  return surveys;
}

function table() {
  return mount(LoadTable, {
    global: { plugins: [vuetify] },
    props: { day: null, picked: null, feed: "house_panel" },
    attachTo: document.body,
  });
}

beforeEach(() => {
  document.body.innerHTML = "";
  setActivePinia(createPinia());
});

describe("the table of loads", () => {
  it("groups them, and says whose draw nobody knows", () => {
    surveyed();
    const found = table();
    expect(found.findAll("tr.group").map((row) => row.text())).toEqual(["Galley", "Lights"]);
    const names = found.findAll("td.name input").map((i) => (i.element as HTMLInputElement).value);
    expect(names).toEqual(["fridge", "pump", "lamp"]);
    expect(found.text()).toContain("? to find out");
    expect(found.text()).toContain("◆ assumed");
  });

  it("goes down a column with Enter and up with shift", async () => {
    surveyed();
    const found = table();
    const draw = found.get<HTMLInputElement>('[data-cell="0:1"]');
    draw.element.focus();
    await draw.trigger("keydown", { key: "Enter" });
    expect(document.activeElement?.getAttribute("data-cell")).toBe("1:1");
    await found.get('[data-cell="1:1"]').trigger("keydown", { key: "Enter", shiftKey: true });
    expect(document.activeElement?.getAttribute("data-cell")).toBe("0:1");
  });

  it("saves a cell, and marks what cannot be read without losing it", async () => {
    const surveys = surveyed();
    const put = vi.spyOn(surveys, "put").mockResolvedValue(true);
    const found = table();
    const draw = found.get<HTMLInputElement>('[data-cell="0:1"]');
    await draw.setValue("4,5");
    expect(put).not.toHaveBeenCalled();
    expect(draw.attributes("aria-invalid")).toBe("true");
    expect(draw.element.value).toBe("4,5");
    expect(useNotices().notice?.text).toContain("4.5");
    await draw.setValue("4.5");
    await flushPromises();
    expect(put).toHaveBeenCalledWith("items", { id: "fridge", draw: 4.5, basis: "typed" });
    expect(draw.attributes("aria-invalid")).toBe("false");
  });

  it("hands on a pasted block as a table", async () => {
    surveyed();
    const found = table();
    const event = new Event("paste", { bubbles: true, cancelable: true });
    Object.assign(event, { clipboardData: { getData: () => "2\n3" } });
    found.get('[data-cell="1:1"]').element.dispatchEvent(event);
    expect(found.emitted("paste")).toEqual([["id\tdraw\npump\t2\nlamp\t3"]]);
  });
});

describe("measuring by difference", () => {
  it("carries the new baseline on to the next load", async () => {
    const surveys = surveyed();
    const measure = vi.spyOn(surveys, "measure").mockResolvedValue(true);
    const found = mount(MeasureSection, { global: { plugins: [vuetify] } });
    const inputs = () => found.findAll<HTMLInputElement>("input");
    await inputs()[1]?.setValue("-5.2");
    await flushPromises();
    expect(measure).not.toHaveBeenCalled();
    expect(useNotices().notice?.text).toContain("what is switched on");
    await inputs()[0]?.setValue("-0.8");
    const pick = found.get<HTMLSelectElement>("select");
    pick.element.selectedIndex = 1;
    await pick.trigger("change");
    await flushPromises();
    await inputs()[1]?.setValue("-5.2");
    await flushPromises();
    expect(measure.mock.calls[0]?.[0]).toMatchObject({
      item: "fridge",
      method: "difference",
      before: -0.8,
      after: -5.2,
    });
    expect(inputs()[0]?.element.value).toBe("-5.2");
  });
});
