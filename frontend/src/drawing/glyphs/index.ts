/** Which glyph draws which kind of part. */
import type { Component as VueComponent } from "vue";

import type { Component } from "../types";
import BankGlyph from "./BankGlyph.vue";
import BusBarGlyph from "./BusBarGlyph.vue";
import DcDcGlyph from "./DcDcGlyph.vue";
import FuseBlockGlyph from "./FuseBlockGlyph.vue";
import InlineGlyph from "./InlineGlyph.vue";
import InverterGlyph from "./InverterGlyph.vue";
import IsolatorGlyph from "./IsolatorGlyph.vue";
import LoadGlyph from "./LoadGlyph.vue";
import OneWayGlyph from "./OneWayGlyph.vue";
import ProtectionGlyph from "./ProtectionGlyph.vue";
import RelayGlyph from "./RelayGlyph.vue";
import SourceGlyph from "./SourceGlyph.vue";
import StarterGlyph from "./StarterGlyph.vue";
import SwitchGlyph from "./SwitchGlyph.vue";

export const GLYPHS: Record<NonNullable<Component["kind"]>, VueComponent> = {
  bank: BankGlyph,
  alternator: SourceGlyph,
  charger: SourceGlyph,
  solar: SourceGlyph,
  generator: SourceGlyph,
  selector: SwitchGlyph,
  dual_switch: SwitchGlyph,
  switch: SwitchGlyph,
  breaker: SwitchGlyph,
  relay: RelayGlyph,
  isolator: IsolatorGlyph,
  dcdc: DcDcGlyph,
  one_way: OneWayGlyph,
  protection: ProtectionGlyph,
  fuse: InlineGlyph,
  fuse_block: FuseBlockGlyph,
  shunt: InlineGlyph,
  bus_bar: BusBarGlyph,
  starter: StarterGlyph,
  loads: LoadGlyph,
  inverter: InverterGlyph,
};
