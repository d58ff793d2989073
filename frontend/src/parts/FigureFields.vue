<script setup lang="ts">
/** The figures of one part, each saved as it is read. */
import { computed } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useEdits } from "@/documents/useEdits";
import { useScheme, type Part } from "@/documents/schemeStore";
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
const schemes = useScheme();

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
const banks = computed(() =>
  schemes.parts
    .filter((part) => part.kind === "bank")
    .map((part) => ({ value: part.id, title: part.name })),
);
/** What stands empty and may, or has a usual value, is asked for last. */
const isRare = (figure: Figure) =>
  figure.rare || (figure.optional && (values.value[figure.name] ?? null) === null);
const rows = computed(() => [
  { id: "first", figures: all.value.filter((figure) => !isRare(figure)) },
  { id: "rare", figures: all.value.filter(isRare) },
]);
const positions = computed(
  () => schemes.scheme?.switches.find((one) => one.id === props.part.id)?.positions ?? [],
);
const marks = computed(
  () =>
    new Map(("marks" in props.part ? (props.part.marks ?? []) : []).map((m) => [m.position, m])),
);
const saveMark = (position: string) => (words: unknown) => {
  const text = String(words ?? "").trim();
  const others = [...marks.value.values()].filter((mark) => mark.position !== position);
  return save("marks")(text ? [...others, { position, words: text }] : others);
};
const assumed = (name: string) => props.part.assumed.includes(name);
const save = (name: string) => edits.figure(props.part.id, name);
</script>

<template>
  <div>
    <component
      :is="row.id === 'rare' ? 'details' : 'div'"
      v-for="row in rows"
      :key="row.id"
      :class="row.id"
    >
      <summary v-if="row.id === 'rare'">
        More figures <span>{{ row.figures.length }}, usual unless told</span>
      </summary>
      <div class="figures">
        <TextField
          v-if="row.id === 'first'"
          label="Name"
          :value="part.name"
          :save="save('name')"
          required
        />
        <template v-for="figure in row.figures" :key="figure.name">
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
          <PickField
            v-else-if="figure.sort === 'bank'"
            :label="figure.label"
            none="None on record"
            :picks="banks"
            :value="values[figure.name]"
            :save="save(figure.name)"
          />
          <template v-else-if="figure.sort === 'marks'">
            <TextField
              v-for="position in positions"
              :key="position"
              :label="`Stands on it at “${position}”`"
              :value="marks.get(position as never)?.words ?? ''"
              :save="saveMark(position)"
            />
          </template>
          <TextField
            v-else
            :label="figure.label"
            :value="values[figure.name]"
            :save="save(figure.name)"
            required
          />
        </template>
        <template v-if="row.id === 'first'">
          <PickField
            label="Place"
            :value="part.place ?? null"
            :picks="places"
            :save="save('place')"
            nullable
          />
          <slot />
        </template>
      </div>
    </component>
  </div>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(176px, 1fr));
  gap: 10px 12px;
  align-items: end;
}
.rare {
  margin-top: 10px;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  gap: 10px;
  cursor: pointer;
  font-weight: 700;
}
summary::before {
  content: "▸";
}
details[open] summary::before {
  content: "▾";
}
summary span {
  font-weight: 400;
}
</style>
