<script setup lang="ts">
/** What is overdue or due soon over all boats of the workshop. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";

const props = defineProps<{ all: Schemas["BoatDue"][] }>();
const overdue = computed(() => props.all.filter((one) => one.standing === "overdue").length);
</script>

<template>
  <details v-if="all.length" class="due">
    <summary>
      <span v-if="overdue" class="text-error">▲ {{ overdue }} services overdue</span>
      <span v-if="all.length > overdue" class="text-warning">
        ◆ {{ all.length - overdue }} due soon
      </span>
    </summary>
    <ul>
      <li v-for="one in all" :key="one.job + one.key">
        <router-link :to="{ name: 'log', params: { jobId: one.job, variantId: one.variant } }">
          {{ one.boat }}: {{ one.title }}
        </router-link>
        <small>{{ one.why }}</small>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.due {
  margin-bottom: 14px;
}
summary {
  min-height: 48px;
  padding-top: 12px;
  font-weight: 700;
}
summary span {
  margin-right: 16px;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  min-height: 40px;
}
a {
  color: inherit;
  margin-right: 12px;
}
</style>
