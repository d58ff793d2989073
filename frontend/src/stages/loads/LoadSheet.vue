<script setup lang="ts">
/** What the table has no column for: where a load hangs, when it runs, how it was measured. */
import { computed } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import { CHOICES } from "@/parts/kinds";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import YesNoField from "@/shared/fields/YesNoField.vue";
import { withEntry } from "@/shared/records";
import { SEASONS } from "@/shared/seasons";

const props = defineProps<{ id: string }>();
const emit = defineEmits<{ gone: [] }>();

const surveys = useSurvey();
const schemes = useScheme();
const open = useOpenJob();
const { cell } = useEdits();
const item = computed(() => surveys.survey?.items.find((row) => row.id === props.id) ?? null);
const measured = computed(() =>
  (surveys.survey?.measurements ?? []).filter((m) => m.item === props.id),
);
const feeds = computed(() =>
  schemes.parts.filter((p) => p.kind === "loads").map((p) => ({ value: p.id, title: p.name })),
);
const windows = computed(() =>
  (open.choices?.windows ?? []).map((w) => ({ value: w.id, title: w.label })),
);
const note = computed(
  () => open.choices?.loads.find((entry) => entry.item.id === props.id)?.note ?? "",
);
const save = (name: string) => cell("items", props.id, name);

function setFactor(season: string, value: number | null) {
  return save("seasons")(withEntry(item.value?.seasons, season, value === 1 ? null : value));
}

async function takeOut() {
  if (await surveys.remove("items", props.id)) emit("gone");
}
</script>

<template>
  <div v-if="item" class="sheet">
    <p v-if="note" class="note">{{ note }}</p>
    <TextField label="Group" :value="item.group" :save="save('group')" required />
    <PickField label="Which feed" :value="item.feed" :picks="feeds" :save="save('feed')" nullable />
    <PickField label="When" :value="item.window" :picks="windows" :save="save('window')" />
    <YesNoField
      label="Draws round the clock (standing)"
      :value="item.standing"
      :save="save('standing')"
    />
    <YesNoField
      label="Meant to stay on with every switch off"
      :value="item.always_on"
      :save="save('always_on')"
    />
    <PickField label="Kind of draw" :value="item.law" :picks="CHOICES.law" :save="save('law')" />
    <NumberField
      label="Stops working below"
      unit="V"
      :value="item.min_v"
      :save="save('min_v')"
      optional
    />
    <PickField
      label="Its circuit may lose"
      :value="item.drop"
      :picks="CHOICES.drop"
      :save="save('drop')"
      none="As its name proposes: see Runs"
    />
    <NumberField
      label="As it starts, or stuck"
      unit="A"
      :value="item.start_a"
      :save="save('start_a')"
      optional
    />
    <YesNoField
      label="A motor that cuts out by itself when stuck and hot"
      :value="item.thermal_cutout"
      :save="save('thermal_cutout')"
      nullable
    />
    <NumberField
      label="Fuse its maker asks for"
      unit="A"
      :value="item.fuse_a"
      :save="save('fuse_a')"
      optional
    />
    <h3>Hours, times this in</h3>
    <div class="pairs">
      <NumberField
        v-for="season in SEASONS"
        :key="season.value"
        :label="season.title"
        unit="×"
        :value="item.seasons?.[season.value as keyof typeof item.seasons] ?? 1"
        :save="(value) => setFactor(season.value, value)"
        optional
      />
    </div>
    <h3>Measured</h3>
    <p v-if="!measured.length">Not yet: the draw is {{ item.basis }}.</p>
    <ul>
      <li v-for="m in measured" :key="m.id">
        <strong>
          {{ m.before != null ? `${m.before} to ${m.after}` : m.after }} {{ m.unit }}
        </strong>
        by {{ m.method }}, {{ m.date }}, {{ m.by }}
      </li>
    </ul>
    <v-btn color="error" variant="text" @click="takeOut">Take {{ item.name }} out</v-btn>
  </div>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-direction: column;
  gap: 9px;
  padding: 0 14px 24px;
}
.note {
  font-style: italic;
}
h3 {
  font-size: 1rem;
  margin-top: 4px;
}
.pairs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
ul {
  padding-left: 18px;
}
</style>
