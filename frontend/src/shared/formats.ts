/** How a workshop writes days, hours and lengths, and on which paper it prints. */
import { ref } from "vue";

import type { Schemas } from "@/api/client";

export type Formats = Schemas["FormatsOut"];

/** As the workshop of who is signed in has it; before that, as the device does. */
export const formats = ref<Formats>({
  dates: "device",
  clock: "device",
  units: "both",
  paper: "A4",
});

type Moment = Date | string | number;
const two = (n: number) => String(n).padStart(2, "0");

/** A day; a number is in milliseconds. */
export function day(at: Moment): string {
  const date = new Date(at);
  const [y, m, d] = [date.getFullYear(), two(date.getMonth() + 1), two(date.getDate())];
  switch (formats.value.dates) {
    case "ymd":
      return `${y}-${m}-${d}`;
    case "dmy":
      return `${d}.${m}.${y}`;
    case "mdy":
      return `${m}/${d}/${y}`;
    default:
      return date.toLocaleDateString();
  }
}

/** The hour and minute of a moment. */
export function hour(at: Moment): string {
  const { clock } = formats.value;
  const hour12 = clock === "device" ? undefined : clock === "12";
  return new Date(at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12 });
}

export const dayAndHour = (at: Moment) => `${day(at)} ${hour(at)}`;
