<script setup lang="ts">
/** One part: its posts with what is stacked on each, its charge or items, what it can become. */
import { mdiArrowDown, mdiArrowUp } from "@mdi/js";
import { computed } from "vue";

import { useScheme, type Part } from "@/documents/schemeStore";
import FigureFields from "@/parts/FigureFields.vue";
import { ampHours, amps, percent, volts } from "@/shared/units";

import { useBench } from "./benchStore";
import { usePicking } from "./picking";
import { useWiring } from "./wiring";

const props = defineProps<{ part: Part }>();

const schemes = useScheme();
const bench = useBench();
const picking = usePicking();
const wiring = useWiring();

const point = computed(() => bench.result?.point);
const charge = computed(() => {
  if (props.part.kind !== "bank") return 0;
  return bench.state.soc?.[props.part.id] ?? props.part.soc;
});
const why = computed(() => {
  const now = point.value;
  const id = props.part.id;
  return (now?.relays?.[id] ?? now?.converters?.[id] ?? now?.contacts?.[id])?.why;
});
const shunt = computed(() => point.value?.shunts?.[props.part.id]);
/** What runs for minutes only, and can be switched on here: a windlass, a thruster, a kettle. */
const brief = computed(() => {
  const part = props.part;
  if (part.kind !== "loads" && part.kind !== "inverter") return [];
  return (part.items ?? []).filter((item) => item.brief || !item.profiles?.length);
});

function running(item: string): boolean {
  return bench.state.running?.includes(`${props.part.id}.${item}`) ?? false;
}

function run(item: string) {
  const ref = `${props.part.id}.${item}`;
  const now = bench.state.running ?? [];
  bench.set({ running: now.includes(ref) ? now.filter((r) => r !== ref) : [...now, ref] });
}

function post(ref: string): string {
  return schemes.scheme?.post_names[ref] ?? ref;
}

/** Lugs lie seat first; a step up puts one further from the seat. */
function move(ref: string, stack: string[], at: number, by: 1 | -1) {
  const cables = [...stack];
  const [one] = cables.splice(at, 1);
  if (one === undefined) return;
  cables.splice(at + by, 0, one);
  void wiring.change({ type: "stack_cables", post: ref, cables });
}
</script>

<template>
  <template v-if="part.kind === 'bank'">
    <label class="charge">
      State of charge on the bench: <strong>{{ percent(charge) }}</strong>
      <input
        type="range"
        min="0"
        max="1"
        step="0.01"
        :value="charge"
        @input="bench.setCharge(part.id, Number(($event.target as HTMLInputElement).value))"
      />
    </label>
    <p>
      {{ part.parallel }} × {{ ampHours(part.unit_ah) }} in parallel, {{ part.series }} in series,
      {{ part.unit_cca_a ? `${part.unit_cca_a} A CCA each` : "CCA not known" }},
      {{ part.temperature_c }} °C
    </p>
  </template>
  <p v-if="why">It {{ why }}.</p>
  <p v-if="shunt">
    It reads <strong>{{ amps(shunt.reads_a) }}</strong>; its bank takes {{ amps(shunt.bank_a) }}.
    <strong v-if="Math.abs(shunt.bypassed_a) >= 0.05" class="text-warning">
      ◆ {{ amps(shunt.bypassed_a) }} pass it by
    </strong>
  </p>
  <template v-if="brief.length">
    <h4>Run now</h4>
    <div class="ends">
      <v-btn
        v-for="item in brief"
        :key="item.id"
        :aria-pressed="running(item.id)"
        :color="running(item.id) ? 'success' : undefined"
        :variant="running(item.id) ? 'flat' : 'outlined'"
        @click="run(item.id)"
      >
        {{ item.name }}: {{ running(item.id) ? "running" : "off" }}
      </v-btn>
    </div>
  </template>
  <template v-if="picking.moving?.from">
    <p>
      <strong>Pick the post</strong> for the new cable from {{ post(picking.moving.from) }}, on the
      drawing or here.
    </p>
    <ul class="posts">
      <li v-for="ref in picking.moving.posts" :key="ref">
        <v-btn size="small" block @click="picking.moveTo(ref)">{{ post(ref) }}</v-btn>
      </li>
    </ul>
    <v-btn variant="text" @click="picking.drop()">Run no cable</v-btn>
  </template>
  <template v-for="at in picking.moving ? [] : wiring.edits?.posts" :key="at.post">
    <h4>
      {{ post(at.post) }} <span class="volts">{{ volts(point?.post_v[at.post]) }}</span>
    </h4>
    <ol v-if="at.stack.length" class="stack" :aria-label="`On ${post(at.post)}, seat first`">
      <li v-for="(id, n) in at.stack" :key="id">
        <button type="button" class="lug" @click="picking.pick('cable', id)">
          {{ schemes.scheme?.design.cables.find((c) => c.id === id)?.gauge }}:
          {{ schemes.scheme?.cable_names[id] }}
        </button>
        <template v-if="at.stack.length > 1">
          <v-btn
            :icon="mdiArrowUp"
            size="x-small"
            variant="text"
            :disabled="n === 0"
            :aria-label="`Nearer the seat: ${schemes.scheme?.cable_names[id]}`"
            @click="move(at.post, at.stack, n, -1)"
          />
          <v-btn
            :icon="mdiArrowDown"
            size="x-small"
            variant="text"
            :disabled="n === at.stack.length - 1"
            :aria-label="`Further from the seat: ${schemes.scheme?.cable_names[id]}`"
            @click="move(at.post, at.stack, n, 1)"
          />
        </template>
      </li>
    </ol>
    <p v-else class="bare">no cable on it</p>
    <v-btn size="small" variant="text" @click="picking.startCable(at.post)">
      Run a cable from {{ post(at.post) }}
    </v-btn>
    <div v-if="at.gathers" class="ends">
      <v-btn :disabled="wiring.asking" @click="wiring.edit('gather', at.post, 'bus_bar')">
        Split onto a bus bar
      </v-btn>
      <v-btn :disabled="wiring.asking" @click="wiring.edit('gather', at.post, 'fuse_block')">
        Split onto a fused bus
      </v-btn>
    </div>
  </template>
  <div class="ends">
    <v-btn v-if="wiring.edits?.swap?.length" :disabled="wiring.asking">
      Swap it for another kind
      <v-menu activator="parent">
        <v-list aria-label="Kinds to swap for">
          <v-list-item
            v-for="choice in wiring.edits.swap"
            :key="choice.kind"
            @click="wiring.edit('swap', part.id, choice.kind)"
          >
            {{ choice.words }}
          </v-list-item>
        </v-list>
      </v-menu>
    </v-btn>
    <v-btn variant="text" @click="wiring.change({ type: 'remove_part', part: part.id })">
      Take it out with its cables
    </v-btn>
  </div>
  <details v-if="!picking.moving" class="figures-of">
    <summary>Figures of this part</summary>
    <FigureFields :key="part.id" :part="part" />
  </details>
</template>

<style scoped src="./picked.css"></style>
<style scoped>
.figures-of summary {
  min-height: 40px;
  display: flex;
  align-items: center;
  font-weight: 700;
  cursor: pointer;
}
.charge input {
  width: 100%;
  height: 30px;
}
h4 {
  margin-top: 8px;
  font-size: 0.95rem;
}
.volts {
  float: right;
}
.stack {
  list-style: none;
  padding: 0;
}
.stack li {
  display: flex;
  align-items: center;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
.stack li:first-child::before {
  content: "seat";
  font-size: 0.72rem;
  font-weight: 700;
  margin-right: 6px;
}
.lug {
  flex: 1;
  text-align: left;
  min-height: 40px;
  font-size: 0.9rem;
}
.bare {
  font-size: 0.85rem;
}
</style>
