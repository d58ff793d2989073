<script setup lang="ts">
/** The answer first: what a day costs, what it needs, what is there. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { ampHours } from "@/shared/units";

const props = defineProps<{ plan: Schemas["BankPlan"] }>();
const need = computed(() => props.plan.needs.find((n) => n.way === props.plan.counts) ?? null);
const fitted = computed(() => props.plan.candidates.find((c) => c.fitted) ?? null);
</script>

<template>
  <div v-if="need" class="head">
    <p>
      <span class="big">{{ ampHours(need.use_ah) }}</span> used a day
    </p>
    <p>
      <span class="big">{{ ampHours(need.net_ah) }}</span> net of sun, wind, water
    </p>
    <p>
      <span class="big">
        {{ ampHours(need.need_ah["lead"] ?? 0) }}
      </span>
      of lead needed, or {{ ampHours(need.need_ah["lithium"] ?? 0) }} of lithium
    </p>
    <p v-if="fitted">
      <span class="big" :class="fitted.enough ? 'text-success' : 'text-warning'">
        {{ fitted.enough ? "✓" : "◆" }} {{ ampHours(fitted.capacity_ah) }}
      </span>
      fitted: {{ fitted.label }}
    </p>
  </div>
  <ul v-if="plan.missing.length" class="missing text-info">
    <li v-for="line in plan.missing" :key="line">? Wanting: {{ line }}</li>
  </ul>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 30px;
  padding: 2px 16px 8px;
  flex: none;
}
.big {
  display: block;
  font-size: 1.75rem;
  font-weight: 800;
  line-height: 1.15;
}
.missing {
  list-style: none;
  padding: 0 16px 6px;
  font-weight: 600;
}
@media (max-width: 959px) {
  .head {
    gap: 2px 18px;
    padding: 2px 12px 6px;
    font-size: 0.9rem;
  }
  .big {
    font-size: 1.35rem;
  }
}
</style>
