/** Moments of a plan by the clock: hours count from its beginning, days from its first. */
import type { Schemas } from "@/api/client";

export function clock(clockH: number, atS: number, hours: number): string {
  const minutes = Math.round((clockH + atS / 3600) * 60);
  const day = Math.floor(minutes / 1440) + 1;
  const words = `${two(Math.floor(minutes / 60) % 24)}:${two(minutes % 60)}`;
  return clockH + hours > 24 ? `day ${day}, ${words}` : words;
}

function two(value: number): string {
  return String(value).padStart(2, "0");
}

/** A moment as it is typed: `2 06:30` is half past six on the second day; null when it is none. */
export function readClock(text: string, clockH: number): number | null {
  const found = /^\s*(?:(?:day\s*)?(\d{1,3})[ ,]+)?(\d{1,2})[:.](\d{2})\s*$/i.exec(text);
  if (!found) return null;
  const [, day, hour, minute] = found;
  const [h, m] = [Number(hour), Number(minute)];
  if (h > 24 || m > 59) return null;
  const at = (Number(day ?? 1) - 1) * 24 + h + m / 60 - clockH;
  // Without a day an hour before the beginning means the next morning.
  return at < 0 && !day ? at + 24 : at;
}

export function writeClock(hour: number, clockH: number): string {
  const minutes = Math.round((clockH + hour) * 60);
  const words = `${two(Math.floor(minutes / 60) % 24)}:${two(minutes % 60)}`;
  return `${Math.floor(minutes / 1440) + 1} ${words}`;
}

export interface Tick {
  hour: number;
  words: string;
  midnight: boolean;
}

const STEPS_H = [1, 2, 3, 6, 12, 24, 48, 168, 336, 720];

/** Ticks of a time axis, a round number of hours apart and not too many. */
export function ticks(clockH: number, hours: number, most: number): Tick[] {
  const step = STEPS_H.find((s) => hours / s <= most) ?? hours;
  const found: Tick[] = [];
  for (let at = Math.ceil(clockH / step) * step; at <= clockH + hours + 1e-9; at += step) {
    const midnight = at % 24 === 0;
    const day = `day ${Math.floor(at / 24) + 1}`;
    found.push({ hour: at - clockH, words: midnight ? day : `${two(at % 24)}:00`, midnight });
  }
  return found;
}

/** From when to when [s] it is dark, by the sun's events up to an end. */
export function nightsOf(events: Schemas["Event"][], end: number): [number, number][] {
  const sun = events.filter((e) => e.kind === "sun");
  const found: [number, number][] = [];
  let dark: number | null = sun[0]?.to === "up" ? 0 : null;
  for (const event of sun) {
    if (event.to === "down") dark = event.at_s;
    else if (dark !== null) {
      found.push([dark, event.at_s]);
      dark = null;
    }
  }
  if (dark !== null) found.push([dark, end]);
  return found;
}
