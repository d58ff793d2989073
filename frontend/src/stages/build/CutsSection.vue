<script setup lang="ts">
import { computed } from "vue";

import NumberField from "@/shared/fields/NumberField.vue";

import type { Build, NewEntry } from "./useBuild";

const props = defineProps<{
  build: Build;
  enter: (...made: NewEntry[]) => Promise<boolean>;
  cut: (reel: string, pieces: string[]) => Promise<boolean>;
}>();

const cuts = computed(() => props.build.book.cuts);
const plan = computed(() => props.build.book.plan);
const provisional = computed(() => cuts.value.filter((piece) => piece.provisional).length);
const isCut = (key: string) => props.build.state.ticks[key]?.done === true;
const nameOf = (key: string) => cuts.value.find((piece) => piece.key === key)?.name ?? key;

function measure(target: string, metres: number | null) {
  return metres === null
    ? Promise.resolve(false)
    : props.enter({ kind: "length", target, length_m: metres });
}
</script>

<template>
  <section aria-label="Cuts" class="block">
    <h2>{{ cuts.length }} pieces, {{ provisional }} provisional</h2>
    <ul class="cuts">
      <li v-for="piece in cuts" :key="piece.key">
        <p class="length">
          <strong>{{ isCut(piece.key) ? "☑ " : "" }}{{ piece.cut_m.toFixed(2) }} m</strong>
          <small>{{ piece.gauge }}, {{ piece.colour }}, {{ piece.insulation_c }} °C</small>
          <small v-if="piece.provisional" class="text-warning">◆ provisional</small>
        </p>
        <div class="ends">
          <div v-for="end in piece.ends" :key="end.label">
            <strong>{{ end.label }}</strong>
            <small>
              lug {{ end.stud }}{{ end.hole_mm ? `, ${end.hole_mm} mm hole` : ""
              }}{{ end.assumed ? " (usual stud)" : "" }}, strip {{ end.strip_mm }} mm<template
                v-if="end.torque"
                >, {{ end.torque }}</template
              >
            </small>
          </div>
          <small>
            {{ piece.why }} Shrink {{ piece.shrink_bore_mm }} mm.
            <span v-if="piece.unprotected_m != null" class="text-warning">
              No fuse protects these {{ piece.unprotected_m.toFixed(2) }} m; at most
              {{ piece.unprotected_limit_m?.toFixed(2) }} m.
            </span>
          </small>
        </div>
        <NumberField
          class="measured"
          :label="piece.provisional ? 'Measure it' : 'Measured'"
          unit="m"
          :value="build.state.lengths[piece.key]?.length_m ?? null"
          :save="(metres) => measure(piece.key, metres)"
          optional
        />
      </li>
    </ul>
    <h2>From which reel</h2>
    <p>{{ plan.to_buy_m.toFixed(2) }} m to buy; found by: {{ plan.by || "no pieces" }}.</p>
    <ul class="reels">
      <li v-for="one in plan.cuts" :key="`${one.reel}${one.gauge}${one.colour}`">
        <strong>{{ one.reel ?? "To buy" }}: {{ one.gauge }}, {{ one.colour }}</strong>
        {{ one.length_m.toFixed(2) }} m for {{ one.pieces.length }}
        {{ one.pieces.length === 1 ? "piece" : "pieces"
        }}<template v-if="one.reel">, {{ one.left_m.toFixed(2) }} m left</template>
        <small>{{ one.pieces.map(nameOf).join("; ") }}</small>
        <v-btn v-if="one.reel" size="small" @click="props.cut(one.reel, one.pieces)">
          They are cut: book the rest back
        </v-btn>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.cuts,
.reels {
  list-style: none;
  padding: 0;
}
.cuts li {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) 140px;
  gap: 12px;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
.length strong {
  font-size: 1.4rem;
}
.length small,
.ends small,
.reels small {
  display: block;
}
.reels li {
  padding: 6px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
@media (max-width: 959px) {
  .cuts li {
    grid-template-columns: 1fr 140px;
  }
  .ends {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
