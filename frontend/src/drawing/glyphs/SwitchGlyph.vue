<script setup lang="ts">
import { computed } from "vue";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"selector" | "dual_switch" | "switch" | "breaker">>();

const WORDS: Record<string, string> = {
  off: "OFF",
  on: "ON",
  both: "BOTH",
  combine: "COMBINE",
  "1": "1",
  "2": "2",
};
const mirror = (x: number) => {
  if (!props.box.mirrored) return x;
  return (props.part.kind === "dual_switch" ? 100 : 108) - x;
};
const contact = computed(() => props.point?.contacts?.[props.part.id]);
const letGo = computed(() => contact.value !== undefined && !contact.value.rests);
const drive = computed(() => {
  if (props.part.kind !== "switch" && props.part.kind !== "dual_switch") return "";
  return {
    hand: "",
    latching: "remote, latches",
    held: letGo.value ? "coil let go" : "held by coil",
  }[props.part.drive ?? "hand"];
});
const bridges = computed<string[]>(() => {
  const at = letGo.value ? "off" : props.position;
  if (props.part.kind === "selector") {
    const one = `M${mirror(24)} 0 V14 L54 52`;
    const two = `M${mirror(84)} 0 V14 L54 52`;
    const legs = { "1": [one], "2": [two], both: [one, two], off: [] }[at] ?? [];
    return legs.length ? [...legs, "M54 52 V100"] : [];
  }
  if (props.part.kind === "dual_switch") {
    if (at === "off") return [];
    return ["M22 0 V88", "M78 0 V88", ...(at === "combine" ? ["M22 62 H78"] : [])];
  }
  return at === "on" ? [`M20 0 V${props.box.height}`] : [];
});
const detail = computed(() => {
  if (props.part.kind !== "selector") return "";
  const { make_before_break: makes, field_contact_of: field } = props.part;
  const turn =
    makes == null ? "break order unknown" : makes ? "make before break" : "breaks before make";
  return field ? `${turn}, field contact` : `${turn}, no field contact`;
});
const middle = computed(() => ({ x: 20, y: props.box.height / 2 }));
</script>

<template>
  <g>
    <template v-if="part.kind === 'selector'">
      <circle cx="54" cy="52" r="38" class="body" />
      <path v-for="d in bridges" :key="d" :d="d" class="bridge" />
      <circle cx="54" cy="52" r="9" class="hub" />
      <text :x="mirror(24) - 12" y="13" class="post" text-anchor="end">1</text>
      <text :x="mirror(84) + 12" y="13" class="post">2</text>
      <GlyphName :name="part.name" :x="104" :y="40" :width="92" />
      <text x="104" y="78" class="position">{{ WORDS[position] }}</text>
      <title>{{ detail }}</title>
    </template>
    <template v-else-if="part.kind === 'dual_switch'">
      <rect x="6" y="14" width="88" height="60" rx="14" class="body" />
      <path v-for="d in bridges" :key="d" :d="d" class="bridge" />
      <text :x="mirror(22) + 6" y="11" class="small">engine</text>
      <text :x="mirror(78) + 6" y="11" class="small">house</text>
      <GlyphName :name="part.name" :x="102" :y="36" :width="86" />
      <text x="102" y="72" class="position">{{ WORDS[position] }}</text>
      <text v-if="drive" x="102" y="86" class="small">{{ drive }}</text>
    </template>
    <template v-else>
      <circle :cx="middle.x" :cy="middle.y" r="15" class="body" />
      <path v-for="d in bridges" :key="d" :d="d" class="bridge" />
      <path
        v-if="!bridges.length"
        :d="`M20 0 V${middle.y - 15} M${middle.x - 9} ${middle.y - 7} L${middle.x + 9} ${middle.y + 7} M20 ${middle.y + 15} V${box.height}`"
        class="open"
      />
      <GlyphName :name="part.name" :x="42" :y="18" :width="88" />
      <text x="42" :y="box.height - 3" class="position small" :class="{ gone: letGo }">
        {{ part.kind === "breaker" ? `${part.rating_a} A, ` : "" }}{{ WORDS[position] }}
        <tspan v-if="drive" class="drive">{{ drive }}</tspan>
      </text>
    </template>
  </g>
</template>

<style scoped>
.body {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
}
.bridge {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 7;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.open {
  fill: none;
  stroke: rgb(var(--v-theme-dead));
  stroke-width: 3;
}
.hub {
  fill: rgb(var(--v-theme-ink));
}
.post {
  font-size: 13px;
  font-weight: 700;
}
.position {
  font-size: 18px;
  font-weight: 800;
}
.gone {
  fill: rgb(var(--v-theme-error));
}
.drive {
  font-size: 11px;
  font-weight: 500;
}
.position.small {
  font-weight: 700;
}
</style>
