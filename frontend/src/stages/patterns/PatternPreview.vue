<script setup lang="ts">
/** A pattern as it would be wired: the drawing, and every part and cable that changes. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import SchemeDrawing from "@/drawing/SchemeDrawing.vue";

const props = defineProps<{ preview: Schemas["PreviewOut"] }>();
const WORDS = { new: "New", changed: "Changed", gone: "Goes" };
const groups = computed(() =>
  (["part", "cable"] as const).flatMap((what) =>
    (["new", "changed", "gone"] as const).map((how) => ({
      key: `${what} ${how}`,
      title: `${WORDS[how]}: ${what}s`,
      rows: props.preview.differences.filter((d) => d.what === what && d.how === how),
    })),
  ),
);
const positions = computed(
  () =>
    new Map(
      props.preview.design.components.map((p) => [p.id, "position" in p ? p.position : "off"]),
    ),
);
</script>

<template>
  <div class="picture">
    <SchemeDrawing
      :design="preview.design"
      :layout="preview.positive"
      :point="preview.point"
      :position-of="(id) => positions.get(id) ?? 'off'"
      :cable-names="preview.cable_names"
      :post-names="{}"
      :picked="null"
      :landing="null"
    />
  </div>
  <p>Drawn under way, engine at cruising speed.</p>
  <details v-if="preview.decided.length">
    <summary>Chosen with it: {{ preview.decided.length }} sizes, devices and settings</summary>
    <ul>
      <li v-for="line in preview.decided" :key="line">{{ line }}</li>
    </ul>
  </details>
  <h3>What it changes here</h3>
  <div class="groups">
    <template v-for="group in groups" :key="group.key">
      <section v-if="group.rows.length">
        <h4>{{ group.title }} ({{ group.rows.length }})</h4>
        <ul>
          <li v-for="row in group.rows" :key="row.id">{{ row.words }}</li>
        </ul>
      </section>
    </template>
    <p v-if="!preview.differences.length">Nothing: it is wired so already.</p>
  </div>
</template>

<style scoped>
.picture {
  height: 460px;
  margin: 8px 0;
  border: 1px solid rgb(var(--v-theme-ink), 0.25);
  border-radius: 12px;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  font-weight: 600;
  cursor: pointer;
}
h3 {
  font-size: 1.05rem;
}
.groups {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 6px 20px;
}
ul {
  padding-left: 16px;
  font-size: 0.9rem;
}
</style>
