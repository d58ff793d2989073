<script setup lang="ts">
/** The figures of one part, each saved as it is read. */
import { computed } from "vue";

import { useEdits } from "@/documents/useEdits";
import { useScheme, type Part } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import NumberField from "@/shared/fields/NumberField.vue";
import NumbersField from "@/shared/fields/NumbersField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import YesNoField from "@/shared/fields/YesNoField.vue";

import { figuresOf, type Figure } from "./kinds";

const props = defineProps<{ part: Part }>();
const edits = useEdits();
const surveys = useSurvey();
const schemes = useScheme();

const values = computed(() => props.part as unknown as Record<string, never>);
const places = computed(() =>
  (surveys.survey?.places ?? []).map((place) => ({ value: place.id, title: place.name })),
);
const all = computed(() => {
  const petrol = surveys.survey?.boat.fuel === "petrol" && props.part.kind !== "bank";
  return figuresOf(props.part.kind).filter((figure) => petrol || !figure.petrol_only);
});
const named = (kind?: string) =>
  schemes.parts
    .filter((part) => part.kind === kind)
    .map((part) => ({ value: part.id, title: part.name }));
/** Points of a curve as rows of numbers, in the order of their fields. */
const curve = ({ columns = [], name }: Figure) =>
  ((values.value[name] ?? []) as Record<string, number>[]).map((point) =>
    columns.map((column) => point[column.name] ?? 0),
  );
const saveCurve =
  ({ columns = [], name }: Figure) =>
  (rows: number[][]) =>
    save(name)(
      rows.map((row) => Object.fromEntries(columns.map(({ name: n }, at) => [n, row[at] ?? null]))),
    );
/** What stands empty and may, or has a usual value, is asked for last. */
const isSeldom = (figure: Figure) =>
  figure.seldom || (figure.optional && (values.value[figure.name] ?? null) === null);
const rows = computed(() => [
  { id: "first", figures: all.value.filter((figure) => !isSeldom(figure)) },
  { id: "rare", figures: all.value.filter(isSeldom) },
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
              minimum: figure.minimum,
              maximum: figure.maximum,
              whole: figure.whole,
            }"
            :value="values[figure.name]"
            :assumed="assumed(figure.name)"
            :save="save(figure.name)"
          />
          <NumbersField
            v-else-if="figure.sort === 'numbers'"
            v-bind="{ label: figure.label, unit: figure.unit }"
            :width="1"
            :value="((values[figure.name] ?? []) as number[]).map((one) => [one])"
            :assumed="assumed(figure.name)"
            :save="(rows) => save(figure.name)(rows.flat())"
          />
          <NumbersField
            v-else-if="figure.sort === 'curve'"
            :label="`${figure.label}: ${figure.columns?.map((c) => c.unit).join(' ')}; …`"
            :width="figure.columns?.length ?? 1"
            :value="curve(figure)"
            :assumed="assumed(figure.name)"
            :save="saveCurve(figure)"
          />
          <PickField
            v-else-if="figure.sort === 'pick'"
            v-bind="{ label: figure.label, nullable: figure.nullable }"
            :none="figure.optional ? 'As usual' : undefined"
            :picks="figure.choices ?? []"
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
            v-else-if="figure.sort === 'part'"
            v-bind="{ label: figure.label, nullable: figure.nullable }"
            :none="figure.optional ? 'None on record' : undefined"
            :picks="named(figure.refers_to)"
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
        </template>
        <template v-if="row.id === 'first'">
          <PickField
            label="Place"
            :value="part.place ?? null"
            :picks="places"
            :save="save('place')"
            nullable
          />
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
