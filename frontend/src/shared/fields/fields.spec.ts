import { flushPromises, mount } from "@vue/test-utils";
import { describe, expect, it, vi } from "vitest";

import NumberField from "./NumberField.vue";
import { readNumber, writeNumber } from "./numbers";
import PickField from "./PickField.vue";
import TextField from "./TextField.vue";

describe("numbers as they are typed", () => {
  it.each([
    ["4.2", { value: 4.2 }],
    [" −3 ", { value: -3 }],
    ["", { value: null }],
    ["4,2", { wrong: "Write a decimal point: 4.2" }],
    ["four", { wrong: "“four” is not a number" }],
  ])("%s", (text, read) => expect(readNumber(text)).toEqual(read));

  it("are written without noise", () => {
    expect([writeNumber(0.1 + 0.2), writeNumber(null), writeNumber(12)]).toEqual(["0.3", "", "12"]);
  });
});

describe("a number field", () => {
  async function typed(text: string, saved = true, more = {}) {
    const save = vi.fn(async () => saved);
    const field = mount(NumberField, {
      props: { label: "Capacity", unit: "Ah", value: 110, save, ...more },
    });
    await field.get("input").setValue(text);
    await flushPromises();
    return { field, save };
  }

  it("saves what was read and says its unit", async () => {
    const { field, save } = await typed("120");
    expect(save).toHaveBeenCalledWith(120);
    expect(field.text()).toContain("Ah");
  });

  it("keeps what cannot be read, and says why", async () => {
    const { field, save } = await typed("12,5");
    expect(save).not.toHaveBeenCalled();
    expect(field.get("[role=alert]").text()).toContain("12.5");
    expect(field.get("input").element.value).toBe("12,5");
  });

  it("keeps what the server refused, to be mended", async () => {
    const { field } = await typed("99999", false);
    expect(field.get("[role=alert]").text()).toContain("Not saved");
    expect(field.get("input").element.value).toBe("99999");
  });

  it("may be emptied only where that means something", async () => {
    expect((await typed("")).save).not.toHaveBeenCalled();
    expect((await typed("", true, { optional: true })).save).toHaveBeenCalledWith(null);
    const unknown = await typed("1", true, { nullable: true, value: null });
    expect(unknown.field.text()).toContain("? to find out");
  });
});

describe("other fields", () => {
  it("a pick that is not known is to find out, and saves what is picked", async () => {
    const save = vi.fn(async () => true);
    const picks = [{ value: "keel", title: "Keel" }];
    const field = mount(PickField, {
      props: { label: "Hull", value: null, picks, save, nullable: true },
    });
    expect(field.text()).toContain("? to find out");
    const select = field.get("select").element;
    select.selectedIndex = 1;
    await field.get("select").trigger("change");
    expect(save).toHaveBeenCalledWith("keel");
  });

  it("words that are needed are not saved empty", async () => {
    const save = vi.fn(async () => true);
    const field = mount(TextField, {
      props: { label: "Name", value: "Helm", save, required: true },
    });
    await field.get("input").setValue("  ");
    await flushPromises();
    expect(save).not.toHaveBeenCalled();
    expect(field.get("[role=alert]").text()).toContain("Not saved");
  });
});
