<script setup lang="ts">
import { computed } from "vue";

import type { Schemas } from "@/api/client";

const props = defineProps<{ rows: Schemas["ToFindOut"][] }>();
const sections = computed(() => {
  const found = new Map<string, Schemas["ToFindOut"][]>();
  for (const row of props.rows) found.set(row.section, [...(found.get(row.section) ?? []), row]);
  return [...found];
});
</script>

<template>
  <div class="find-out">
    <p v-if="!rows.length">Everything is known.</p>
    <section v-for="[section, asked] in sections" :key="section">
      <h3>{{ section }} · {{ asked.length }}</h3>
      <ul>
        <li v-for="row in asked" :key="row.subject + row.question">
          <strong>{{ row.subject }}</strong>: {{ row.question
          }}{{ row.unit ? ` [${row.unit}]` : "" }}
          <small>{{ row.now }}</small>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.find-out {
  padding: 0 12px 24px;
}
h3 {
  font-size: 1rem;
  margin: 10px 0 4px;
}
ul {
  padding-left: 18px;
}
li {
  margin-bottom: 4px;
}
small {
  display: block;
}
</style>
