/** What the owner's sheet is asked for in. */
import type { Schemas } from "@/api/client";

export type SchoolId = Schemas["SheetIn"]["school"];
export type Language = NonNullable<Schemas["SheetIn"]["language"]>;
