<script setup lang="ts">
/** The figures of one part, each saved as it is read. */
import { computed } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useEdits } from "@/documents/useEdits";
import type { Part } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import YesNoField from "@/shared/fields/YesNoField.vue";

import { IGNITION, STUD, type Figure } from "./figures";

const props = defineProps<{ part: Part; figures: Figure[] }>();
const edits = useEdits();
const open = useOpenJob();
const surveys = useSurvey();

const values = computed(() => props.part as unknown as Record<string, never>);
const places = computed(() =>
  (surveys.survey?.places ?? []).map((place) => ({ value: place.id, title: place.name })),
);
const devices = computed(() =>
  (open.choices?.devices ?? []).map((device) => ({ value: device.id, title: device.label })),
);
const all = computed(() => {
  const petrol = surveys.survey?.boat.fuel === "petrol" && props.part.kind !== "bank";
  return [...props.figures, STUD, ...(petrol ? [IGNITION] : [])];
});
const assumed = (name: string) => props.part.assumed.includes(name);
const save = (name: string) => edits.figure(props.part.id, name);
</script>

<template>
  <div class="figures">
    <TextField label="Name" :value="part.name" :save="save('name')" required />
    <template v-for="figure in all" :key="figure.name">
      <NumberField
        v-if="figure.sort === 'number'"
        v-bind="{
          label: figure.label,
          unit: figure.unit,
          nullable: figure.nullable,
          optional: figure.optional,
        }"
        :value="values[figure.name]"
        :assumed="assumed(figure.name)"
        :save="save(figure.name)"
      />
      <PickField
        v-else-if="figure.sort === 'device'"
        :label="figure.label"
        :picks="devices"
        :value="values[figure.name]"
        :save="save(figure.name)"
      />
      <PickField
        v-else-if="figure.sort === 'pick'"
        v-bind="{ label: figure.label, nullable: figure.nullable }"
        :none="figure.optional ? 'As usual' : undefined"
        :picks="figure.picks ?? []"
        :value="values[figure.name]"
        :assumed="assumed(figure.name)"
        :save="save(figure.name)"
      />
      <YesNoField
        v-else-if="figure.sort === 'yes_no'"
        v-bind="{ label: figure.label, nullable: figure.nullable }"
        :value="values[figure.name]"
        :save="save(figure.name)"
      />
      <TextField
        v-else
        :label="figure.label"
        :value="values[figure.name]"
        :save="save(figure.name)"
        required
      />
    </template>
    <PickField
      label="Place"
      :value="part.place ?? null"
      :picks="places"
      :save="save('place')"
      nullable
    />
    <slot />
  </div>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(176px, 1fr));
  gap: 10px 12px;
  align-items: end;
}
</style>
