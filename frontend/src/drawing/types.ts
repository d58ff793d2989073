/** Shapes of the drawing's data, all of them the server's own. */
import type { Schemas } from "@/api/client";

export type Layout = Schemas["Layout"];
export type Box = Schemas["Box"];
export type Wire = Schemas["Wire"];
export type Point = Schemas["OperatingPoint"];
export type Design = Schemas["Design"];
export type Component = Design["components"][number];
export type Of<K extends Component["kind"]> = Extract<Component, { kind?: K }>;

/** A part in its room, with the moment it is drawn at. */
export interface GlyphProps<K extends Component["kind"]> {
  part: Of<K>;
  box: Box;
  point: Point | null;
  position: string;
}
