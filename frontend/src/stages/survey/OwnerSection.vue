<script setup lang="ts">
import { useEdits } from "@/documents/useEdits";
import { useSurvey } from "@/documents/surveyStore";
import { CHOICES } from "@/parts/kinds";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import YesNoField from "@/shared/fields/YesNoField.vue";
import { SEASONS } from "@/shared/seasons";

const surveys = useSurvey();
const { field } = useEdits();
</script>

<template>
  <section v-if="surveys.survey" aria-label="Owner" class="block">
    <TextField
      label="What the owner complains of"
      :value="surveys.survey.use.complaint"
      :save="field('use', 'complaint')"
      :rows="3"
    />
    <div class="fields">
      <PickField
        label="Way of use"
        :value="surveys.survey.use.way"
        :picks="CHOICES.way"
        :save="field('use', 'way')"
        nullable
      />
      <YesNoField
        label="Shore power when alongside"
        :value="surveys.survey.use.shore_power"
        :save="field('use', 'shore_power')"
        nullable
      />
      <PickField
        label="Season that counts"
        :value="surveys.survey.use.season"
        :picks="SEASONS"
        :save="field('use', 'season')"
      />
      <NumberField
        label="Days aboard in a year"
        unit="days"
        :value="surveys.survey.use.days_a_year"
        :save="field('use', 'days_a_year')"
        nullable
      />
    </div>
  </section>
</template>
