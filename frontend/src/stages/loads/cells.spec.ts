import { describe, expect, it } from "vitest";

import { columnsFor, pastedTable, readHours, writeHours, type Item } from "./cells";

const COLUMNS = columnsFor([
  { id: "at_anchor", name: "At anchor", shore: false },
  { id: "alongside", name: "Alongside", shore: true },
]);
const fridge = {
  id: "fridge",
  name: "Refrigerator",
  draw: 4.2,
  duty: 0.45,
  standing: false,
  uses: { at_anchor: { hours: 24 }, alongside: { times: 6, minutes: 10 } },
} as unknown as Item; // only what the columns look at

const column = (id: string) => {
  const found = COLUMNS.find((c) => c.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe("hours", () => {
  it.each([
    ["4", { uses: { hours: 4 } }],
    ["3.5 h", { uses: { hours: 3.5 } }],
    ["6 x 10", { uses: { times: 6, minutes: 10 } }],
    ["6×10 min", { uses: { times: 6, minutes: 10 } }],
    ["", { uses: null }],
  ])("%s", (text, read) => expect(readHours(text)).toEqual(read));

  it("say what is wrong with them", () => {
    expect(readHours("all day")).toHaveProperty("wrong");
    expect(writeHours({ times: 6, minutes: 10 })).toBe("6x10");
    expect(writeHours(undefined)).toBe("");
  });
});

describe("columns", () => {
  it("show an item and change only their own field", () => {
    expect(COLUMNS.map((c) => c.show(fridge)).slice(-2)).toEqual(["24", "6x10"]);
    expect(column("draw").read("5", fridge)).toEqual({ fields: { draw: 5, basis: "typed" } });
    expect(column("hours at_anchor").read("", fridge)).toEqual({
      fields: { uses: { alongside: { times: 6, minutes: 10 } } },
    });
    expect(column("name").read(" ", fridge)).toHaveProperty("wrong");
    expect(column("hours at_anchor").show({ ...fridge, standing: true })).toBe("24");
  });
});

describe("a pasted block", () => {
  it("lands from the cell it was pasted in, tied to the rows there", () => {
    const table = pastedTable("4.2\tA\r\n6\tW\r\n", COLUMNS, 1, ["fridge"]);
    expect(table.split("\n")).toEqual(["id\tdraw\tunit", "fridge\t4.2\tA", "\t6\tW"]);
  });

  it("with a head line of its own is left as it is", () => {
    const block = "Load\tAmps\nLamp\t2";
    expect(pastedTable(block, COLUMNS, 3, ["fridge"])).toBe(block);
  });
});
