<script setup lang="ts">
/** Measuring aboard: by difference with the baseline carried on, by clamp meter, by plate. */
import { computed, ref } from "vue";

import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";
import { useSurvey } from "@/documents/surveyStore";
import ChoiceButtons from "@/shared/fields/ChoiceButtons.vue";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import { freeId } from "@/shared/ids";
import { today } from "@/shared/today";

type Method = "difference" | "clamp" | "plate";
const METHODS: Record<Method, string> = {
  difference: "By difference",
  clamp: "By clamp meter",
  plate: "By plate",
};
const METHOD_CHOICES = (Object.keys(METHODS) as Method[]).map((id) => ({
  id,
  words: METHODS[id],
}));
const surveys = useSurvey();
const notices = useNotices();
const session = useSession();
const method = ref<Method>("difference");
const before = ref<number | null>(null);
const item = ref<string | null>(null);
const unit = ref<"A" | "W">("A");
const date = ref(today());
const by = ref(session.session?.username ?? "");
const items = computed(() => surveys.survey?.items ?? []);
const picks = computed(() =>
  items.value.map((i) => ({
    value: i.id,
    title: `${i.name}${["difference", "clamp"].includes(i.basis) ? " ✓" : ""}`,
  })),
);
const made = computed(() => [...(surveys.survey?.measurements ?? [])].reverse());
const nameOf = (id: string) => items.value.find((i) => i.id === id)?.name ?? id;

async function keep(after: number | null) {
  const byDifference = method.value === "difference";
  if (after === null || !item.value || (byDifference && before.value === null)) {
    const wanting = item.value ? "the reading before" : "what is switched on";
    notices.notice = { text: `First say ${wanting}.`, details: [], kind: "error" };
    return false;
  }
  const taken = surveys.survey?.measurements.map((m) => m.id) ?? [];
  const saved = await surveys.measure({
    id: freeId(`m_${item.value}`, taken),
    item: item.value,
    method: method.value,
    unit: unit.value,
    ...(byDifference ? { before: before.value } : {}),
    after,
    date: date.value,
    by: by.value || "unknown",
  });
  if (!saved) return false;
  notices.said(surveys.saved?.can_undo ?? "Measured");
  // What was switched on stays on: the reading is the baseline of the next item.
  if (byDifference) before.value = after;
  const left = items.value.filter((i) => i.basis === "assumed" && i.id !== item.value);
  item.value = left[0]?.id ?? null;
  return true;
}
</script>

<template>
  <section aria-label="Measure aboard" class="block">
    <ChoiceButtons
      label="How it is measured"
      :choices="METHOD_CHOICES"
      :value="method"
      @choose="method = $event"
    />
    <p v-if="method === 'difference'">
      Chargers off, sun covered. Read the monitor; switch one thing on; read again. Leave it on: the
      second reading is the baseline of the next.
    </p>
    <p v-else-if="method === 'clamp'">
      Round one conductor only, zeroed beside it. Wait until the reading stands.
    </p>
    <p v-else>Read the plate; it is often more than the thing really draws.</p>
    <div class="steps">
      <NumberField
        v-if="method === 'difference'"
        label="1 Reading before"
        :unit="unit"
        :value="before"
        :save="(value) => ((before = value), true)"
        optional
      />
      <PickField
        label="2 What is switched on"
        :value="item"
        :picks="picks"
        none="Pick a load"
        :save="(value) => ((item = value as string | null), true)"
      />
      <NumberField
        :key="item ?? ''"
        :label="method === 'difference' ? '3 Reading after' : '3 Reading'"
        :unit="unit"
        :value="null"
        :save="keep"
      />
      <PickField
        label="Unit"
        :value="unit"
        :picks="[
          { value: 'A', title: 'A' },
          { value: 'W', title: 'W' },
        ]"
        :save="(value) => !!(unit = value as 'A' | 'W')"
      />
      <TextField
        label="Date"
        type="date"
        :value="date"
        :save="(value) => !!(date = value)"
        required
      />
      <TextField label="By" :value="by" :save="(value) => ((by = value), true)" />
    </div>
    <h2>Kept</h2>
    <table class="plain">
      <thead>
        <tr>
          <th>Load</th>
          <th>How</th>
          <th>Before</th>
          <th>After</th>
          <th>Draws now</th>
          <th>Date</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in made" :key="m.id">
          <th scope="row">{{ nameOf(m.item) }}</th>
          <td>{{ METHODS[m.method] }}</td>
          <td>{{ m.before ?? "–" }}{{ m.before != null ? ` ${m.unit}` : "" }}</td>
          <td>{{ m.after }} {{ m.unit }}</td>
          <td>
            <strong>
              {{ items.find((i) => i.id === m.item)?.draw ?? "?" }}
              {{ items.find((i) => i.id === m.item)?.unit }}
            </strong>
          </td>
          <td>{{ m.date }}</td>
          <td>{{ m.by }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(168px, 1fr));
  gap: 12px;
  align-items: end;
  margin: 12px 0;
}
</style>
