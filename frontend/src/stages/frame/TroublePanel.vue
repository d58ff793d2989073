<script setup lang="ts">
/** In place of a stage that could not be opened: why, and what can be done. */
import { computed } from "vue";

import type { Problem } from "@/api/client";

const props = defineProps<{ problem: Problem }>();
const emit = defineEmits<{ again: [] }>();

const words = computed(() => {
  switch (props.problem.status) {
    case 0:
      return {
        title: "The server does not answer",
        text: "It is tried again by itself. What you entered is kept on this device.",
      };
    case 404:
      return {
        title: "This boat is not in your workshop",
        text: "It may have been put into the bin, or the address may be of another workshop.",
      };
    default:
      return { title: props.problem.title, text: props.problem.detail };
  }
});
</script>

<template>
  <section class="trouble" aria-label="This cannot be opened">
    <h1>{{ words.title }}</h1>
    <p>{{ words.text }}</p>
    <ul v-if="problem.status && problem.status !== 404" class="pl-5">
      <li v-for="error in problem.errors" :key="error.path + error.message">
        {{ error.path ? `${error.path}: ` : "" }}{{ error.message }}
      </li>
    </ul>
    <div class="ways">
      <v-btn
        v-if="problem.status !== 404"
        color="primary"
        variant="flat"
        size="large"
        @click="emit('again')"
      >
        Try again
      </v-btn>
      <v-btn size="large" variant="outlined" :to="{ name: 'jobs' }">All jobs</v-btn>
    </div>
  </section>
</template>

<style scoped>
.trouble {
  display: grid;
  gap: 16px;
  align-content: start;
  max-width: 720px;
  padding: 40px 20px;
  overflow: auto;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
</style>
