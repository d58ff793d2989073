<script setup lang="ts">
/** The plan of a day: its time line, what is picked on it, and where it begins. */
import { computed, nextTick, ref, watch, type Ref } from "vue";

import type { Schemas } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";
import { CHOICES } from "@/parts/kinds";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";

import { readClock, writeClock } from "./clock";
import { useDay, type Plan } from "./dayStore";
import {
  LANES,
  roomIn,
  spansOf,
  withMoves,
  withSpans,
  type LaneId,
  type Move,
  type Span,
} from "./planEdits";
import LeadMoves from "./LeadMoves.vue";
import PlanLine from "./PlanLine.vue";

const props = defineProps<{ kept: Schemas["PlanOut"] }>();
const day = useDay();
const schemes = useScheme();
const picked = ref<{ lane: string; n: number } | null>(null);
const OWN = "own";

/** As it is edited; what was refused stays here to be mended. The moves are this variant's. */
const asKept = (): Plan => ({ ...props.kept.document, ...movesOf(props.kept.for_variant) });
const movesOf = (fits: Plan | null) =>
  fits ? { moves: fits.moves, emergency: fits.emergency } : {};
const plan = ref(asKept()) as Ref<Plan>;
/** How many edits are on their way: what the server sends meanwhile is older than the newest. */
let underWay = 0;
watch(
  () => props.kept,
  () => {
    if (!underWay) plan.value = asKept();
  },
);

const clockH = computed(() => plan.value.clock_h ?? 0);
const profiles = computed(() =>
  Object.fromEntries((schemes.scheme?.design.profiles ?? []).map((p) => [p.id, p.name])),
);
const switches = computed(() =>
  Object.fromEntries((schemes.scheme?.switches ?? []).map((s) => [s.id, s.name])),
);
const positions = (id: string) =>
  (schemes.scheme?.switches.find((s) => s.id === id)?.positions ?? []).map((p) => ({
    value: p,
    title: p,
  }));
const kinds = computed(() => new Set(schemes.scheme?.design.components.map((p) => p.kind)));
const lanes = computed(() =>
  LANES.map((lane) => lane.id).filter(
    (id) => (id !== "wind" && id !== "boat") || kinds.value.has("generator"),
  ),
);
const items = computed(() =>
  (schemes.scheme?.design.components ?? []).flatMap((part) =>
    "items" in part
      ? (part.items ?? []).map((item) => ({ value: `${part.id}.${item.id}`, title: item.name }))
      : [],
  ),
);
const SOURCES = ["alternator", "charger", "solar", "generator", "inverter", "dcdc"];
const sources = computed(() =>
  (schemes.scheme?.design.components ?? [])
    .filter((part) => SOURCES.includes(part.kind))
    .map((part) => ({ value: part.id, title: part.name })),
);
const named = computed(() =>
  Object.fromEntries([...items.value, ...sources.value].map(({ value, title }) => [value, title])),
);
const faults = computed(() =>
  (day.plans?.faults ?? []).map((fault) => ({
    value: fault.key,
    title: `${fault.words[0]?.toUpperCase()}${fault.words.slice(1)}`,
  })),
);
const lane = computed(() => LANES.find((l) => l.id === picked.value?.lane) ?? null);
const span = computed(() =>
  lane.value && picked.value ? (spansOf(plan.value, lane.value.id)[picked.value.n] ?? null) : null,
);
const move = computed(() =>
  picked.value?.lane === "moves" ? (plan.value.moves?.[picked.value.n] ?? null) : null,
);
const schoolName = computed(
  () => day.plans?.schools.find((s) => s.id === props.kept.school)?.name ?? "its own moves",
);

async function keep(next: Plan, own = false): Promise<boolean> {
  plan.value = next;
  underWay++;
  try {
    const kept = await day.keep(next, own ? OWN : (props.kept.school ?? OWN));
    await nextTick();
    if (kept && underWay === 1) plan.value = asKept();
    return kept;
  } finally {
    underWay--;
  }
}

function setSpan(fields: Partial<Span>): Promise<boolean> {
  const id = lane.value?.id;
  if (!id) return Promise.resolve(false);
  const spans = spansOf(plan.value, id).map((one, n) =>
    n === picked.value?.n ? { ...one, ...fields } : one,
  );
  return keep(withSpans(plan.value, id, spans));
}

function setMove(fields: Partial<Move>): Promise<boolean> {
  const moves = (plan.value.moves ?? []).map((m, n) =>
    n === picked.value?.n ? { ...m, ...fields, occasion: "by_hand" as const } : m,
  );
  return keep(withMoves(plan.value, moves), true);
}

async function add(id: LaneId) {
  const own = LANES.find((l) => l.id === id)?.fresh({
    profiles: Object.keys(profiles.value),
    items: items.value.map((item) => item.value),
    sources: sources.value.map((source) => source.value),
  });
  const fresh = { ...roomIn(plan.value, id), ...own };
  const next = withSpans(plan.value, id, [...spansOf(plan.value, id), fresh]);
  await keep(next);
  const n = spansOf(next, id).findIndex((s) => s.start_h === fresh.start_h);
  picked.value = { lane: id, n };
}

async function addMove() {
  const first = schemes.scheme?.switches[0];
  if (!first) return;
  const made: Move = {
    at_h: Math.min(1, plan.value.hours ?? 1),
    switch: first.id,
    position: first.positions[0] ?? "off",
    through: null,
    occasion: "by_hand",
  };
  const next = withMoves(plan.value, [...(plan.value.moves ?? []), made]);
  await keep(next, true);
  picked.value = { lane: "moves", n: (next.moves ?? []).indexOf(made) };
}

async function takeOut() {
  const now = picked.value;
  if (!now) return;
  picked.value = null;
  if (now.lane === "moves") {
    await keep(
      withMoves(
        plan.value,
        (plan.value.moves ?? []).filter((_, n) => n !== now.n),
      ),
      true,
    );
  } else {
    const id = now.lane as LaneId;
    await keep(
      withSpans(
        plan.value,
        id,
        spansOf(plan.value, id).filter((_, n) => n !== now.n),
      ),
    );
  }
}

/** A time typed by the clock, as hours of the plan. */
const timed = (save: (hour: number) => Promise<boolean>) => (text: string) => {
  const hour = readClock(text, clockH.value);
  return hour === null ? false : save(hour);
};
const set = (fields: Partial<Plan>) => keep({ ...plan.value, ...fields });
const MONTHS = Array.from({ length: 12 }, (_, n) => ({ value: n + 1, title: String(n + 1) }));
const away = ref(false);
</script>

<template>
  <section class="block" aria-label="Plan">
    <div v-if="day.refused" class="refused" role="alert">
      <strong>▲ Not kept yet:</strong>
      <ul>
        <li
          v-for="line in day.refused.errors.length ? day.refused.errors : [day.refused.detail]"
          :key="line"
        >
          {{ line }}
        </li>
      </ul>
    </div>
    <p v-else-if="kept.problem" class="refused" role="alert">
      <strong>▲ Does not fit this variant:</strong> {{ kept.problem }}
    </p>
    <div class="back">
      <v-btn variant="outlined" :disabled="!kept.can_undo" @click="day.undo()">
        Take the last change back
      </v-btn>
      <v-btn v-if="kept.can_redo" variant="text" @click="day.undo(true)">Do it again</v-btn>
    </div>
    <p class="how">
      The switches are turned by
      <strong>{{ schoolName }}</strong>{{
        props.kept.school === "own" ? "" : "; change one of them, and they become the plan's own"
      }}.
    </p>
    <PlanLine
      :plan="plan"
      :lanes="lanes"
      :picked="picked"
      :profiles="profiles"
      :switches="switches"
      :named="named"
      @pick="(l, n) => (picked = { lane: l, n })"
      @change="keep"
    />
    <div class="adds">
      <v-btn
        v-for="l in LANES.filter((one) => lanes.includes(one.id))"
        :key="l.id"
        size="small"
        variant="outlined"
        @click="add(l.id)"
      >
        + {{ l.name }}
      </v-btn>
      <v-btn size="small" variant="outlined" @click="addMove">+ Switch move</v-btn>
    </div>
    <ol class="moves" aria-label="Switch moves in order">
      <li v-for="(one, n) in plan.moves ?? []" :key="n">
        <v-btn
          size="small"
          :variant="picked?.lane === 'moves' && picked.n === n ? 'flat' : 'tonal'"
          @click="picked = { lane: 'moves', n }"
        >
          {{ writeClock(one.at_h, clockH) }}&ensp;{{ switches[one.switch] ?? one.switch }} →
          {{ one.position }}{{ one.through ? ` past ${one.through}` : "" }}
        </v-btn>
      </li>
    </ol>
    <LeadMoves :plan="plan" :keep="keep" />
    <div v-if="span && lane" class="card" :aria-label="`Picked: ${lane.one}`">
      <div class="card-head">
        <h3>{{ lane.name }}</h3>
        <v-btn size="small" variant="text" @click="takeOut">Take out</v-btn>
      </div>
      <div class="fields">
        <TextField
          label="From (day hour:minute)"
          :value="writeClock(span.start_h, clockH)"
          :save="timed((h) => setSpan({ start_h: h }))"
        />
        <TextField
          label="To (day hour:minute)"
          :value="writeClock(span.end_h, clockH)"
          :save="timed((h) => setSpan({ end_h: h }))"
        />
        <NumberField
          v-if="lane.figure"
          :label="lane.figure.label"
          :unit="lane.figure.unit"
          :value="Number(span[lane.figure.field] ?? 0)"
          :save="(v) => setSpan({ [lane?.figure?.field ?? 'figure']: v })"
        />
        <PickField
          v-if="lane.id === 'living'"
          label="Profile"
          :value="String(span['profile'])"
          :picks="Object.entries(profiles).map(([value, title]) => ({ value, title }))"
          :save="(v) => setSpan({ profile: v })"
        />
        <PickField
          v-if="lane.own"
          :label="lane.name"
          :value="String(span[lane.own])"
          :picks="lane.own === 'item' ? items : sources"
          :save="(v) => setSpan({ [lane?.own ?? 'item']: v })"
        />
        <PickField
          v-if="lane.id === 'sky'"
          label="Sky"
          :value="String(span['sky'])"
          :picks="CHOICES.sky"
          :save="(v) => setSpan({ sky: v })"
        />
      </div>
    </div>
    <div v-if="move" class="card" aria-label="Picked: a switch move">
      <div class="card-head">
        <h3>{{ switches[move.switch] ?? move.switch }} to {{ move.position }}</h3>
        <v-btn size="small" variant="text" @click="takeOut">Take out</v-btn>
      </div>
      <div class="fields">
        <TextField
          label="At (day hour:minute)"
          :value="writeClock(move.at_h, clockH)"
          :save="timed((h) => setMove({ at_h: h }))"
        />
        <PickField
          label="Switch"
          :value="move.switch"
          :picks="Object.entries(switches).map(([value, title]) => ({ value, title }))"
          :save="
            (v) => setMove({ switch: String(v), position: String(positions(String(v))[0]?.value) })
          "
        />
        <PickField
          label="To"
          :value="move.position"
          :picks="positions(move.switch)"
          :save="(v) => setMove({ position: String(v) })"
        />
        <PickField
          label="Past"
          :value="move.through ?? null"
          none="straight there"
          :picks="positions(move.switch)"
          :save="(v) => setMove({ through: v === null ? null : String(v) })"
        />
      </div>
    </div>
    <h2>The plan itself</h2>
    <div class="fields">
      <TextField label="Name" :value="plan.name" :save="(v) => set({ name: v })" />
      <TextField
        label="Begins at (hour:minute)"
        :value="writeClock(0, clockH).slice(2)"
        :save="
          (text) => {
            const hour = readClock(text, 0);
            return hour === null || hour >= 24 ? false : set({ clock_h: hour });
          }
        "
      />
      <NumberField
        label="Lasts"
        unit="h"
        :value="plan.hours"
        :save="(v) => set({ hours: v ?? undefined })"
      />
      <NumberField
        label="Cranking at each start"
        unit="s"
        :value="plan.crank_s"
        :save="(v) => set({ crank_s: v ?? undefined })"
      />
      <PickField
        label="Month of the sun"
        :value="plan.month ?? null"
        none="as the survey's season"
        :picks="MONTHS"
        :save="(v) => set({ month: v as number | null })"
      />
      <PickField
        label="What fails"
        :value="plan.fault?.key ?? null"
        none="nothing"
        :picks="faults"
        :save="
          (v) => set({ fault: v === null ? null : { key: String(v), at_h: plan.fault?.at_h ?? 1 } })
        "
      />
      <TextField
        v-if="plan.fault"
        label="Fails at (day hour:minute)"
        :value="writeClock(plan.fault.at_h, clockH)"
        :save="timed((h) => set({ fault: { key: plan.fault?.key ?? '', at_h: h } }))"
      />
      <NumberField
        label="Seed of the loads"
        :value="plan.seed"
        :save="(v) => set({ seed: v ?? undefined })"
      />
    </div>
    <div class="adds">
      <v-btn v-if="!away" size="small" variant="text" @click="away = true">Drop this plan</v-btn>
      <template v-else>
        <span>Days already computed stay.</span>
        <v-btn size="small" color="error" variant="flat" @click="day.drop(kept.id)">
          Take {{ plan.name }} away
        </v-btn>
        <v-btn size="small" variant="text" @click="away = false">Keep it</v-btn>
      </template>
    </div>
  </section>
</template>

<style src="./planSection.css" scoped></style>
