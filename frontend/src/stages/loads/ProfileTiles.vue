<script setup lang="ts">
/** What a day costs in each profile: the numbers everything else hangs on, largest on the page. */
import type { Schemas } from "@/api/client";
import { ampHours, amps, fineAmpHours, wattHours } from "@/shared/units";

defineProps<{ report: Schemas["LoadReport"]; shown: string | null }>();
const emit = defineEmits<{ show: [profile: string] }>();
</script>

<template>
  <div class="tiles" role="radiogroup" aria-label="Profile shown">
    <button
      v-for="day in report.audit.profiles"
      :key="day.profile"
      type="button"
      role="radio"
      :aria-checked="day.profile === shown"
      :class="{ here: day.profile === shown }"
      @click="emit('show', day.profile)"
    >
      <span class="name">
        {{ day.name }}
        <span v-if="day.profile === report.audit.worst" class="text-warning">◆ most</span>
      </span>
      <span class="ah">{{ ampHours(day.charge_ah) }}<small> a day</small></span>
      <span>{{ wattHours(day.energy_wh) }} · mean {{ amps(day.mean_a) }}</span>
      <span>standing {{ fineAmpHours(day.standing_week_ah) }} a week</span>
      <span v-if="day.unknown.length" class="text-info">
        ? without {{ day.unknown.length }} of unknown draw
      </span>
    </button>
  </div>
</template>

<style scoped>
.tiles {
  display: flex;
  gap: 10px;
  padding: 2px 16px 8px;
  overflow-x: auto;
  flex: none;
}
button {
  display: flex;
  flex-direction: column;
  flex: 1 0 168px;
  max-width: 250px;
  padding: 7px 14px;
  text-align: left;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1.5px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 12px;
  font-size: 0.9rem;
}
.here {
  border: 3px solid rgb(var(--v-theme-primary));
  padding: 5px 12px;
}
.name {
  font-weight: 700;
  font-size: 1rem;
}
.ah {
  font-size: 1.75rem;
  font-weight: 800;
  line-height: 1.15;
}
small {
  font-size: 0.95rem;
  font-weight: 600;
}
@media (max-width: 959px) {
  .tiles {
    padding: 2px 12px 8px;
  }
  button {
    flex: 0 0 196px;
  }
}
</style>
