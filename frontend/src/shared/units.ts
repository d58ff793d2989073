/** Numbers as people read them: with their unit, a true minus, and no more digits than they mean. */

import { formats } from "./formats";

const NOTHING = "–";

function fixed(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? text.replace("-", "") : text).replace("-", "−");
}

export function volts(value: number | null | undefined): string {
  return value == null ? NOTHING : `${fixed(value, 2)} V`;
}

export function amps(value: number | null | undefined): string {
  if (value == null) return NOTHING;
  return `${fixed(value, Math.abs(value) < 100 ? 1 : 0)} A`;
}

export function celsius(value: number): string {
  return `${fixed(value, 0)} °C`;
}

/** Amps with their direction, as at a bank: + flows in, − flows out. */
export function signedAmps(value: number): string {
  const text = amps(value);
  return Number(value.toFixed(1)) > 0 ? `+${text}` : text;
}

export function percent(share: number): string {
  return `${fixed(share * 100, 0)} %`;
}

export function ampHours(value: number): string {
  return `${fixed(value, 0)} Ah`;
}

/** Ampere-hours small enough that a tenth counts. */
export function fineAmpHours(value: number): string {
  return `${fixed(value, Math.abs(value) < 10 ? 1 : 0)} Ah`;
}

export function wattHours(value: number): string {
  return value >= 10_000 ? `${fixed(value / 1000, 1)} kWh` : `${fixed(value, 0)} Wh`;
}

export function hours(value: number | null | undefined): string {
  return value == null ? NOTHING : `${fixed(value, value < 10 ? 1 : 0)} h`;
}

export function kilograms(value: number | null | undefined): string {
  return value == null ? NOTHING : `${fixed(value, 0)} kg`;
}

/** Bytes on a disk. */
export function megabytes(bytes: number): string {
  return `${fixed(bytes / 1e6, bytes < 1e6 ? 2 : 1)} MB`;
}

export function years(value: number): string {
  return `${fixed(value, 1)} years`;
}

export function watts(value: number): string {
  return `${fixed(value, 0)} W`;
}

/** Volts lost, small as they are. */
export function lostVolts(value: number): string {
  return `${fixed(value, value < 0.1 ? 3 : 2)} V`;
}

/** A percentage with a tenth, as drops are judged. */
export function finePercent(value: number | null | undefined): string {
  return value == null ? NOTHING : `${fixed(value, 1)} %`;
}

export function squareMillimetres(value: number): string {
  return `${fixed(value, value < 10 ? 2 : 1)} mm²`;
}

/** A length as the workshop reads it: in metres, in feet or inches, or both side by side. */
function inUnits(metric: string, imperial: string): string {
  const { units } = formats.value;
  return units === "both" ? `${metric} · ${imperial}` : units === "metric" ? metric : imperial;
}

/** A short distance in metres and inches. */
export function distance(metres: number): string {
  return inUnits(`${fixed(metres, 2)} m`, `${fixed(metres / 0.0254, 0)} in`);
}

export function copper(kilograms: number): string {
  return `${fixed(kilograms, kilograms < 10 ? 2 : 1)} kg`;
}

const METRES_PER_FOOT = 0.3048;

/** A length in metres and feet side by side. */
export function length(metres: number): string {
  const told = `${fixed(metres, metres < 1 ? 2 : 1)} m`;
  return inUnits(told, `${fixed(metres / METRES_PER_FOOT, 1)} ft`);
}
