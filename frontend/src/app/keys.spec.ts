import { mount } from "@vue/test-utils";
import { afterEach, expect, it } from "vitest";
import { defineComponent } from "vue";

import { useKeys } from "./keys";

let ran: string[] = [];
let keysOpen = false;
const keys = [
  { key: "U", words: "Undo", run: () => ran.push("undo") },
  { key: "U", shift: true, words: "Redo", run: () => ran.push("redo") },
  { key: "?", words: "Keys", run: () => ran.push("keys"), open: () => keysOpen },
  { key: "[", words: "Back", run: () => ran.push("back") },
];
const Listener = defineComponent({
  setup: () => useKeys(keys),
  template: "<input type='text' /><input type='range' />",
});
const listener = mount(Listener, { attachTo: document.body });

function press(key: string, more: KeyboardEventInit = {}, target: EventTarget = window) {
  target.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, ...more }));
}

afterEach(() => {
  ran = [];
  document.querySelector(".v-dialog")?.remove();
});

it("tells undo from redo by shift, and takes letters in either case", () => {
  press("u");
  press("U", { shiftKey: true });
  expect(ran).toEqual(["undo", "redo"]);
});

it("takes signs as they come, with or without shift", () => {
  press("?", { shiftKey: true });
  press("[");
  expect(ran).toEqual(["keys", "back"]);
});

it("leaves the browser's own combinations alone", () => {
  press("u", { ctrlKey: true });
  press("u", { metaKey: true });
  expect(ran).toEqual([]);
});

it("does not listen while somebody types, but does at a slider", () => {
  const [text, slider] = listener.element.parentElement?.querySelectorAll("input") ?? [];
  if (!text || !slider) throw new Error("not mounted");
  press("u", {}, text);
  expect(ran).toEqual([]);
  press("u", {}, slider);
  expect(ran).toEqual(["undo"]);
});

it("listens behind an open dialog only to the key that closes it", () => {
  const dialog = document.createElement("div");
  dialog.className = "v-dialog v-overlay--active";
  document.body.append(dialog);
  press("u");
  press("?");
  expect(ran).toEqual([]);
  keysOpen = true;
  press("u");
  press("?");
  expect(ran).toEqual(["keys"]);
});

it("stops listening when its page is gone", () => {
  listener.unmount();
  press("u");
  expect(ran).toEqual([]);
});
