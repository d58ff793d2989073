/** Keyboard: one list that both listens and is shown under `?`. */
import { useEventListener } from "@vueuse/core";

export interface Key {
  /** As in KeyboardEvent.key; letters are matched without regard to case. */
  key: string;
  shift?: boolean;
  words: string;
  run: () => void;
  /** Whether the sheet that it opens is open: then it may run with that sheet over the page. */
  open?: () => boolean;
}

function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  const free =
    target instanceof HTMLInputElement && ["range", "checkbox", "radio"].includes(target.type);
  return !free && target.closest("input, textarea, select, [contenteditable]") !== null;
}

function fits(key: Key, event: KeyboardEvent): boolean {
  if (key.key.toLowerCase() !== event.key.toLowerCase()) return false;
  const isLetter = /^[a-z]$/i.test(key.key);
  return !isLetter || Boolean(key.shift) === event.shiftKey;
}

/** Listen for keys while a component is shown; not while typing or under another's dialog. */
export function useKeys(keys: Key[]) {
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
    const key = keys.find((candidate) => fits(candidate, event));
    if (!key) return;
    if (document.querySelector(".v-dialog.v-overlay--active") && !key.open?.()) return;
    event.preventDefault();
    key.run();
  }
  useEventListener(window, "keydown", onKey);
}
