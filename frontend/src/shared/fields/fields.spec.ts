import { flushPromises, mount } from "@vue/test-utils";
import { describe, expect, it, vi } from "vitest";

import NumberField from "./NumberField.vue";
import NumbersField from "./NumbersField.vue";
import { outOfRange, readNumber, readRows, stepped, writeNumber, writeRows } from "./numbers";
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

describe("a number a step further", () => {
  it.each([
    [4.2, 1, {}, 4.3], // its last digit
    [4, -1, {}, 3.9], // a tenth of its first digit is finer than that
    [110, 1, {}, 111],
    [12.45, -1, {}, 12.44],
    [0, 1, {}, 0.1],
    [9, 1, { whole: true }, 10],
    [0.1, -1, { minimum: 0.05 }, 0.09],
    [5, 1, { maximum: 5 }, 5],
  ] as const)("%f %i", (value, up, limits, then) => expect(stepped(value, up, limits)).toBe(then));
});

describe("a number field", () => {
  it("takes several presses as one entry", async () => {
    vi.useFakeTimers();
    const asked = { matches: true, addEventListener: vi.fn(), removeEventListener: vi.fn() };
    vi.stubGlobal("matchMedia", () => asked);
    const save = vi.fn(async () => true);
    const props = { label: "Length", unit: "m", value: 4.2, save, maximum: 4.4 };
    const field = mount(NumberField, { props });
    for (let n = 0; n < 3; n++) await field.get("[aria-label='One step more']").trigger("click");
    await field.get("[aria-label='One step less']").trigger("click");
    await vi.advanceTimersByTimeAsync(1000);
    vi.useRealTimers();
    vi.unstubAllGlobals();
    expect(save.mock.calls).toEqual([[4.3]]);
  });

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

  it("refuses what its field cannot hold, and says the limit with its unit", async () => {
    const limits = { minimum: 0.5, maximum: 5000 };
    for (const [text, why] of [
      ["9000", "At most 5000 Ah"],
      ["0.1", "At least 0.5 Ah"],
    ] as const) {
      const { field, save } = await typed(text, true, limits);
      expect(save).not.toHaveBeenCalled();
      expect(field.get("[role=alert]").text()).toContain(why);
    }
    expect((await typed("5000", true, limits)).save).toHaveBeenCalledWith(5000);
    const whole = await typed("2.5", true, { whole: true, unit: undefined });
    expect(whole.field.get("[role=alert]").text()).toContain("A whole number");
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

describe("several numbers in one line", () => {
  it.each([
    ["10 10  20", 1, { rows: [[10], [10], [20]] }],
    [
      "6 0; 12 3.5;",
      2,
      {
        rows: [
          [6, 0],
          [12, 3.5],
        ],
      },
    ],
    ["6 0; 12", 2, { wrong: "Row 2 needs 2 numbers" }],
    ["6 0 1", 2, { wrong: "Row 1 needs 2 numbers" }],
    ["ten", 1, { wrong: "“ten” is not a number" }],
    [" ", 1, { wrong: "Numbers are needed here" }],
  ])("%s", (text, width, read) => expect(readRows(text, width)).toEqual(read));

  it("are written as they are read", () => {
    expect(writeRows([[10], [20]])).toBe("10 20");
    expect(
      writeRows([
        [6, 0],
        [12, 3.5],
      ]),
    ).toBe("6 0; 12 3.5");
    expect(outOfRange(0.3, { maximum: 0.2, unit: "0–1" })).toBe("At most 0.2");
  });

  it("are kept as rows, and what cannot be read stays to be mended", async () => {
    const save = vi.fn(async () => true);
    const props = { label: "Curve", width: 2, value: [[6, 0]], save };
    const field = mount(NumbersField, { props });
    await field.get("input").setValue("6 0; 12 3");
    await flushPromises();
    expect(save).toHaveBeenCalledWith([
      [6, 0],
      [12, 3],
    ]);
    await field.get("input").setValue("6 0; 12");
    await flushPromises();
    expect(save).toHaveBeenCalledTimes(1);
    expect(field.get("[role=alert]").text()).toContain("Row 2 needs 2 numbers");
  });
});
