/** What a field holds while it is typed, and whether it was kept: a refused entry stays to mend. */
import { ref, watch, type Ref } from "vue";

export type Save<T> = (value: T) => Promise<boolean> | boolean;

const NOT_SAVED = "Not saved: see the message, and mend it here.";

export function useKept<T>(value: () => T, save: Save<T>) {
  const typed = ref(value()) as Ref<T>;
  const wrong = ref("");
  const saving = ref(false);

  watch(value, (now) => {
    typed.value = now;
    wrong.value = "";
  });

  async function keep(next: T) {
    typed.value = next;
    if (next === value()) {
      wrong.value = "";
      return;
    }
    saving.value = true;
    wrong.value = (await save(next)) ? "" : NOT_SAVED;
    saving.value = false;
  }

  return { typed, wrong, saving, keep };
}
