<script setup lang="ts">
/** What is live at this moment, largest of all; and what changes with the step. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { amps, volts } from "@/shared/units";

type Post = Schemas["LivePost"];
const props = defineProps<{ posts: Post[]; after: Post[] }>();
const SHOWN = 4;
const change = computed(() => props.after.length - props.posts.length);
</script>

<template>
  <div class="live" :class="posts.length ? 'on' : 'off'" role="status">
    <p v-if="posts.length" class="big">▲ Live now: {{ posts.length }} posts</p>
    <p v-else class="big">✓ Nothing is live now</p>
    <ul v-if="posts.length">
      <li v-for="post in posts.slice(0, SHOWN)" :key="post.post">
        <strong>{{ post.name }}</strong> {{ volts(post.volts_v) }}, {{ amps(post.amps) }} into a
        short
      </li>
    </ul>
    <details v-if="posts.length > SHOWN">
      <summary>All {{ posts.length }}</summary>
      <ul class="all">
        <li v-for="post in posts.slice(SHOWN)" :key="post.post">
          <strong>{{ post.name }}</strong> {{ volts(post.volts_v) }}, {{ amps(post.amps) }}
        </li>
      </ul>
    </details>
    <p v-if="change > 0">
      <strong>▲ {{ change }} more</strong> are live after this step.
    </p>
    <p v-else-if="change < 0">
      <strong>{{ -change }} fewer</strong> are live after this step.
    </p>
    <p class="also">
      The posts of a battery are live between themselves whatever is off. Measure before you touch.
    </p>
  </div>
</template>

<style scoped>
.live {
  border: 3px solid;
  border-radius: 12px;
  padding: 8px 14px;
  margin: 8px 0;
}
.on {
  border-color: rgb(var(--v-theme-error));
}
.off {
  border-color: rgb(var(--v-theme-success));
}
.big {
  font-size: 1.9rem;
  font-weight: 800;
  line-height: 1.2;
}
.on .big {
  color: rgb(var(--v-theme-error));
}
.off .big {
  color: rgb(var(--v-theme-success));
}
ul {
  list-style: none;
  padding: 0;
  font-size: 1.08rem;
}
.all {
  font-size: 1rem;
  columns: 260px;
}
.also {
  font-size: 0.92rem;
}
</style>
