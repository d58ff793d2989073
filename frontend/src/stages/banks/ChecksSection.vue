<script setup lang="ts">
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";

const props = defineProps<{ checks: Schemas["BankCheck"][] }>();

const schemes = useScheme();
const parts = computed(() => {
  const ids = [...new Set(props.checks.map((check) => check.part))];
  return ids.map((id) => ({
    id,
    name: schemes.parts.find((part) => part.id === id)?.name ?? id,
    checks: props.checks.filter((check) => check.part === id),
  }));
});
</script>

<template>
  <section aria-label="Limits of banks and alternators" class="block">
    <article v-for="part in parts" :key="part.id" class="card">
      <h3>{{ part.name }}</h3>
      <div v-for="check in part.checks" :key="check.about" class="check">
        <p>
          {{ check.about }} <strong class="big">{{ check.figure }}</strong>
        </p>
        <details>
          <summary>Arithmetic</summary>
          <ul class="arithmetic">
            <li v-for="line in check.working" :key="line">{{ line }}</li>
          </ul>
          <p class="source">{{ check.source }}</p>
        </details>
      </div>
    </article>
  </section>
</template>

<style scoped>
.check {
  display: grid;
  gap: 2px;
  padding: 6px 0;
}
.big {
  display: block;
  font-size: 1.5rem;
  font-weight: 800;
  line-height: 1.2;
}
</style>
