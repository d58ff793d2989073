<script setup lang="ts">
import type { Schemas } from "@/api/client";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import { CHOICES } from "@/parts/kinds";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import YesNoField from "@/shared/fields/YesNoField.vue";
import { ampHours, percent } from "@/shared/units";

defineProps<{ plan: Schemas["BankPlan"] }>();

const surveys = useSurvey();
const { field } = useEdits();

/** A share that is typed in per cent; empty is none of one's own. */
const inPercent = (name: string) => (value: number | null) =>
  surveys.set("sizing", { [name]: value === null ? null : value / 100 });
</script>

<template>
  <section v-if="surveys.survey" aria-label="Need" class="block">
    <table class="plain">
      <thead>
        <tr>
          <th>Reckoned by</th>
          <th>Used a day</th>
          <th>Given back</th>
          <th>Net a day</th>
          <th>To bridge</th>
          <th>Lead</th>
          <th>Lithium</th>
          <th>Counts</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="need in plan.needs" :key="need.way" :class="{ here: need.way === plan.counts }">
          <th scope="row">{{ need.label }}</th>
          <td>{{ ampHours(need.use_ah) }}</td>
          <td>{{ ampHours(need.yield_ah) }}</td>
          <td>{{ ampHours(need.net_ah) }}</td>
          <td>
            {{ ampHours(need.period_ah) }}
            <small>
              {{ need.days }} {{ need.dark ? "dark" : "" }} {{ need.days === 1 ? "day" : "days" }}
            </small>
          </td>
          <td>
            <strong>{{ ampHours(need.need_ah["lead"] ?? 0) }}</strong>
          </td>
          <td>
            <strong>{{ ampHours(need.need_ah["lithium"] ?? 0) }}</strong>
          </td>
          <td>
            <span v-if="need.way === plan.counts" class="text-success">✓ counts</span>
            <v-btn v-else size="small" @click="surveys.set('sizing', { basis: need.way })">
              Let it count
            </v-btn>
          </td>
        </tr>
      </tbody>
    </table>
    <details v-for="need in plan.needs" :key="need.way">
      <summary>Arithmetic: {{ need.label.toLowerCase() }}</summary>
      <ul class="arithmetic">
        <li v-for="line in need.working" :key="line">{{ line }}</li>
      </ul>
    </details>
    <h2>What is asked of the bank</h2>
    <div class="fields">
      <NumberField
        label="Days between charges"
        unit="days"
        :value="surveys.survey.sizing.days_between_charges"
        :save="field('sizing', 'days_between_charges')"
      />
      <NumberField
        label="Dark days to bridge"
        unit="days"
        :value="surveys.survey.sizing.dark_days"
        :save="field('sizing', 'dark_days')"
      />
      <YesNoField
        label="Shore power when alongside"
        :value="surveys.survey.use.shore_power"
        :save="field('use', 'shore_power')"
        nullable
      />
      <NumberField
        label="Own usable window (empty: by chemistry)"
        unit="%"
        :value="
          surveys.survey.sizing.window == null
            ? null
            : Math.round(100 * surveys.survey.sizing.window)
        "
        :save="inPercent('window')"
        optional
      />
      <NumberField
        label="Growth"
        unit="%"
        :value="Math.round(100 * surveys.survey.sizing.growth)"
        :save="inPercent('growth')"
      />
      <NumberField
        label="Ageing"
        unit="%"
        :value="Math.round(100 * surveys.survey.sizing.ageing)"
        :save="inPercent('ageing')"
      />
      <NumberField
        label="The bank's temperature"
        unit="°C"
        :value="surveys.survey.sizing.bank_temperature_c"
        :save="field('sizing', 'bank_temperature_c')"
      />
      <NumberField
        label="A charge ends at"
        unit="%"
        :value="Math.round(100 * surveys.survey.sizing.charge_to)"
        :save="inPercent('charge_to')"
      />
      <PickField
        label="Ah stated at"
        :value="surveys.survey.sizing.volts"
        :picks="CHOICES.sizing_volts"
        :save="field('sizing', 'volts')"
      />
    </div>
    <p v-for="window in plan.windows" :key="window.family" class="source">
      {{ window.family === "lead" ? "Lead" : "Lithium" }}: {{ window.words }} may be used ({{
        percent(window.share)
      }}). {{ window.source }}
    </p>
  </section>
</template>

<style scoped>
.here th,
.here td {
  background: rgb(var(--v-theme-surface-variant));
}
small {
  display: block;
}
details {
  margin-top: 4px;
}
@media (max-width: 959px) {
  table {
    display: block;
    overflow-x: auto;
  }
}
</style>
