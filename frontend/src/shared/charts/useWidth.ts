/** The width that a drawing has on the page, followed as it changes. */
import { useResizeObserver } from "@vueuse/core";
import { computed, ref, type Ref } from "vue";

const LETTER = 8; // about what one takes, bold and 13.5 px high

/** Whether words have room on a bar so wide. */
export const fitsIn = (words: string, width: number) => width > words.length * LETTER + 8;

/** Words of so many letters at most. */
export const cut = (words: string, most: number) =>
  words.length <= most ? words : `${words.slice(0, most - 1).trimEnd()}…`;

export function useWidth(drawing: Ref<Element | null>, first = 840) {
  const width = ref(first);
  const page = computed(() => drawing.value?.parentElement ?? null);
  useResizeObserver(page, ([entry]) => {
    if (entry && entry.contentRect.width > 0) width.value = Math.round(entry.contentRect.width);
  });
  return width;
}
