/** How a number looks as a line: width says amps, dash says dead. Looks only, no rule. */
const IDLE_A = 0.05;

export type Flow = "dead" | "idle" | "flowing";

export function flowOf(amps: number, live: boolean): Flow {
  if (!live) return "dead";
  return Math.abs(amps) < IDLE_A ? "idle" : "flowing";
}

/** Line width in drawing units: thin when idle, 11 at 150 A and above. */
export function strokeWidth(amps: number, flow: Flow): number {
  if (flow !== "flowing") return 2.5;
  return 3 + 8 * Math.sqrt(Math.min(Math.abs(amps), 150) / 150);
}

export function polyline(points: readonly { x: number; y: number }[]): string {
  return points.map(({ x, y }) => `${x},${y}`).join(" ");
}
