<script setup lang="ts">
/** One run: its numbers with their arithmetic, its cables, and what if it were otherwise. */
import { computed, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import FigureFields from "@/parts/FigureFields.vue";
import { CHOICES } from "@/parts/kinds";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import YesNoField from "@/shared/fields/YesNoField.vue";
import {
  amps,
  celsius,
  copper,
  distance,
  finePercent,
  lostVolts,
  squareMillimetres,
} from "@/shared/units";

import PhotosFold from "@/stages/build/PhotosFold.vue";

import { fieldsFor, VERDICTS, type Fields, type Leg, type RunRow } from "./runs";

const props = defineProps<{ row: RunRow; gauges: string[] }>();
const emit = defineEmits<{ choose: [cables: string[]] }>();

const schemes = useScheme();
const notices = useNotices();
const opened = ref<Set<string>>(new Set(["Design current"]));
const tried = ref<Schemas["WhatIfOut"] | null>(null);
const asked = ref("");
const verdict = computed(() => VERDICTS[props.row.verdict]);
const first = computed(() => props.row.legs[0] as Leg);
const cable = computed(() => schemes.scheme?.design.cables.find((c) => c.id === first.value.cable));
const path = computed(() => {
  const { path_v, path_percent, limit_v, limit_why } = props.row;
  if (path_v == null || limit_v == null) return limit_why;
  return `${lostVolts(path_v)} = ${finePercent(path_percent)} of ${lostVolts(limit_v)}: ${limit_why}`;
});
const brief = computed(() =>
  props.row.brief_a > props.row.current_a ? `, ${amps(props.row.brief_a)} for seconds` : "",
);
const device = computed(() => {
  const { device_name, device_type, device_a, device_m, device_place, exempt } = props.row;
  if (!device_name) return exempt ? "none: cranking, exempt" : "none";
  const far = device_m == null ? "" : `, ${distance(device_m)} from the source`;
  const place = device_place ? `, ${device_place}` : "";
  return `${device_name}, ${device_type}, ${device_a} A${far}${place}`;
});
const lug = (one: Leg["lugs"][number]) => {
  const hole = one.hole_mm ? `, hole ${one.hole_mm} mm` : "";
  const torque = one.torque ? `, ${one.torque}` : "";
  const look = one.assumed ? " (usual, look)" : "";
  return `${one.post}: ${one.stud} stud${look}, lug ${one.lug}${hole}${torque}`;
};
const cableOf = (leg: Leg) => schemes.scheme?.design.cables.find((c) => c.id === leg.cable);
/** The fuse or breaker itself, where it is a part of its own and not a branch of a bus. */
const devicePart = computed(() => schemes.parts.find((part) => part.id === props.row.device));
const SPACES = [
  { value: "ends", title: "as its ends tell" },
  { value: "in", title: "through an engine space" },
  { value: "out", title: "outside engine spaces" },
];
const WAYS: Record<string, boolean | null> = { ends: null, in: true, out: false };
const way = computed(() => {
  const told = cable.value?.engine_space ?? null;
  return told === null ? "ends" : told ? "in" : "out";
});

/** A length that was typed or stepped to is one that was measured. */
const saveLength = (leg: Leg) => (length_m: number | null) =>
  schemes.setCables([{ cable: leg.cable, fields: { length_m, estimated: false } }]);
const save = (field: string) => (value: unknown) =>
  schemes.setCables(fieldsFor(props.row, { [field]: value } as Fields));
const saveOf = (leg: Leg, field: string) => (value: unknown) =>
  schemes.setCables(fieldsFor(props.row, { [field]: value } as Fields, leg.cable));

function toggle(about: string) {
  const next = new Set(opened.value);
  if (!next.delete(about)) next.add(about);
  opened.value = next;
}

/** Look at the run with other figures; nothing is saved until it is asked for. */
async function ask(words: string, fieldsOf: (leg: Leg) => Fields) {
  const rows = props.row.legs.map((leg) => ({ cable: leg.cable, fields: fieldsOf(leg) }));
  try {
    asked.value = words;
    tried.value = await unwrap(
      api.POST("/api/variants/{variant_id}/runs/what-if", {
        params: { path: { variant_id: schemes.scheme?.variant ?? "" } },
        body: { rows },
      }),
    );
    pending.value = rows;
  } catch (error) {
    notices.failed(error);
  }
}
const pending = ref<Schemas["CableFields"][]>([]);

function thicker(leg: Leg): string {
  const at = props.gauges.indexOf(leg.gauge);
  return at < 0 ? leg.gauge : (props.gauges[at + 1] ?? leg.gauge);
}

const TRIES: { words: string; fields: (leg: Leg) => Fields }[] = [
  { words: "Half as long again", fields: (leg) => ({ length_m: leg.length_m * 1.5 }) },
  { words: "One size thicker", fields: (leg) => ({ gauge: thicker(leg) }) },
  { words: "Through an engine space", fields: () => ({ engine_space: true }) },
  { words: "Sheathed", fields: () => ({ sheathed: true }) },
  { words: "Bundled with three others", fields: () => ({ bundled: 4 }) },
];

async function keep() {
  if (await schemes.setCables(pending.value)) tried.value = null;
}
</script>

<template>
  <div class="sheet">
    <h3>{{ row.name }}</h3>
    <p :class="`text-${verdict.color}`">
      <strong>{{ verdict.mark }} {{ verdict.word }}</strong>
    </p>
    <p v-for="line in row.wrong" :key="line" class="text-error">■ {{ line }}.</p>

    <dl class="facts">
      <dt>Sized for</dt>
      <dd>
        <strong>{{ amps(row.current_a) }}</strong> {{ row.current_from }}{{ brief }}
      </dd>
      <dt>Allowed</dt>
      <dd>{{ amps(row.allowed_a) }}, {{ row.confidence }} confidence</dd>
      <dt>Its copper</dt>
      <dd>{{ row.copper_c == null ? "may carry nothing here" : celsius(row.copper_c) }}</dd>
      <dt>Loses itself</dt>
      <dd>{{ lostVolts(row.drop_v) }} = {{ finePercent(row.drop_percent) }}</dd>
      <dt>Whole path</dt>
      <dd>
        {{ path }}
      </dd>
      <dt>Device</dt>
      <dd>
        {{ device }}
      </dd>
      <template v-if="row.fault_a != null">
        <dt>Fault current</dt>
        <dd>
          {{ amps(row.fault_a) }}; it breaks
          {{ row.interrupt_a == null ? "? to find out" : amps(row.interrupt_a) }}
        </dd>
      </template>
      <dt>Copper</dt>
      <dd>{{ copper(row.copper_kg) }}</dd>
      <dt>Bends</dt>
      <dd>inside radius {{ Math.round(first.bend_mm) }} mm or more</dd>
    </dl>

    <div class="acts">
      <v-btn
        size="small"
        color="secondary"
        variant="flat"
        :disabled="row.locked || schemes.busy"
        @click="
          emit(
            'choose',
            row.legs.map((leg) => leg.cable),
          )
        "
      >
        Choose for this run
      </v-btn>
    </div>

    <section v-for="leg in row.legs" :key="leg.cable" class="leg">
      <h4>
        <span class="swatch" :class="`c-${leg.colour}`" aria-hidden="true"></span>
        {{ leg.side === "out" ? "Out" : "Back" }}: {{ leg.gauge }},
        {{ squareMillimetres(leg.area_mm2) }}, {{ leg.colour }}
      </h4>
      <p v-for="one in leg.lugs" :key="one.post" class="lug">{{ lug(one) }}</p>
      <div class="pair">
        <TextField label="Label" :value="leg.label" :save="saveOf(leg, 'label')" />
        <PickField
          label="Colour"
          :value="leg.colour"
          :picks="CHOICES.colour"
          :save="saveOf(leg, 'colour')"
        />
        <PickField
          label="Lug at its start"
          :value="cableOf(leg)?.start_lug ?? null"
          :picks="CHOICES.lug"
          none="made to fit"
          :save="saveOf(leg, 'start_lug')"
        />
        <PickField
          label="Lug at its end"
          :value="cableOf(leg)?.end_lug ?? null"
          :picks="CHOICES.lug"
          none="made to fit"
          :save="saveOf(leg, 'end_lug')"
        />
      </div>
    </section>

    <details v-if="devicePart" class="device">
      <summary>{{ devicePart.name }}: read it off the part</summary>
      <FigureFields :key="devicePart.id" :part="devicePart" />
    </details>

    <h4>As it runs</h4>
    <NumberField
      v-for="leg in row.legs"
      :key="leg.cable"
      :label="`Length ${leg.side}`"
      unit="m"
      :assumed="!row.measured"
      :minimum="0.01"
      :value="leg.length_m"
      :save="saveLength(leg)"
    />
    <PickField
      label="Insulation"
      :value="first.insulation_c"
      :picks="CHOICES.insulation_c"
      :save="save('insulation_c')"
    />
    <PickField
      label="Way"
      :value="way"
      :picks="SPACES"
      :save="(picked) => save('engine_space')(WAYS[String(picked)])"
    />
    <YesNoField label="Sheathed throughout" :value="first.sheathed" :save="save('sheathed')" />
    <NumberField label="Conductors in the bundle" :value="first.bundled" :save="save('bundled')" />
    <NumberField
      label="Design current, typed"
      unit="A"
      optional
      :value="cable?.current_a"
      :save="save('current_a')"
    />
    <NumberField
      label="Allowed drop, typed"
      unit="%"
      optional
      :value="cable?.drop_percent"
      :save="save('drop_percent')"
    />

    <PhotosFold :key="first.cable" :target="first.cable" :words="row.name" what="run" />

    <h4>What if it were…</h4>
    <div class="tries">
      <v-btn
        v-for="one in TRIES"
        :key="one.words"
        size="small"
        variant="outlined"
        :aria-pressed="asked === one.words && tried !== null"
        @click="ask(one.words, one.fields)"
      >
        {{ one.words }}
      </v-btn>
    </div>
    <div v-if="tried" class="tried" role="status">
      <p>
        <strong>{{ asked }}:</strong> {{ amps(tried.now.allowed_a) }} →
        {{ amps(tried.then.allowed_a) }} allowed; it loses {{ lostVolts(tried.now.drop_v) }} →
        {{ lostVolts(tried.then.drop_v) }}; path {{ finePercent(tried.now.path_percent) }} →
        {{ finePercent(tried.then.path_percent) }}.
      </p>
      <p v-for="line in tried.come" :key="line" class="text-error">■ comes: {{ line }}</p>
      <p v-for="line in tried.gone" :key="line" class="text-success">✓ goes: {{ line }}</p>
      <v-btn size="small" color="secondary" variant="flat" @click="keep">Make it so</v-btn>
      <v-btn size="small" variant="text" @click="tried = null">Leave it</v-btn>
    </div>

    <h4>Arithmetic</h4>
    <section v-for="one in row.working" :key="one.about" class="working">
      <button type="button" :aria-expanded="opened.has(one.about)" @click="toggle(one.about)">
        {{ opened.has(one.about) ? "▾" : "▸" }} {{ one.about }}
      </button>
      <template v-if="opened.has(one.about)">
        <p v-for="line in one.lines" :key="line">{{ line }}</p>
        <p class="source">{{ one.source }}</p>
      </template>
    </section>
    <p class="source">
      ◆ Engine stopped, chargers off, panels covered, negative off first; fuse out until the end.
    </p>
  </div>
</template>

<style scoped>
.sheet {
  padding: 4px 12px 28px;
}
h3 {
  font-size: 1.05rem;
  line-height: 1.2;
}
h4 {
  margin-top: 12px;
  font-size: 0.95rem;
}
.facts {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 3px 8px;
  margin: 8px 0;
}
dt {
  font-size: 0.86rem;
}
dd {
  margin: 0;
  line-height: 1.2;
}
.acts,
.tries {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 6px 0;
}
.leg .lug {
  font-size: 0.86rem;
  line-height: 1.2;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 8px;
}
.device summary {
  min-height: 40px;
  display: flex;
  align-items: center;
  font-weight: 700;
  cursor: pointer;
}
.swatch {
  display: inline-block;
  width: 26px;
  height: 10px;
  border-radius: 3px;
  border: 1px solid rgb(var(--v-theme-ink), 0.5);
  margin-right: 4px;
}
.c-red {
  background: rgb(var(--v-theme-wire));
}
.c-black {
  background: #111;
}
.c-yellow {
  background: #d9b400;
}
.c-brown {
  background: #6b4226;
}
.c-blue {
  background: #2559a8;
}
.c-green {
  background: #2c7a3d;
}
.tried {
  border: 1.5px solid rgb(var(--v-theme-secondary));
  border-radius: 8px;
  padding: 8px 10px;
  background: rgb(var(--v-theme-surface));
}
.working button {
  min-height: 36px;
  font-weight: 700;
  color: inherit;
  text-align: left;
}
.working p {
  font-size: 0.88rem;
  line-height: 1.25;
  margin: 0 0 4px 16px;
}
.source {
  font-size: 0.8rem !important;
  font-style: italic;
}
</style>
