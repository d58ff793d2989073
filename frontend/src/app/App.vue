<script setup lang="ts">
import { useLight } from "./light";
import { useNotices } from "./notices";

useLight();
const notices = useNotices();
</script>

<template>
  <v-app>
    <router-view />
    <v-snackbar
      :model-value="notices.notice !== null"
      :color="notices.notice?.kind"
      :timeout="notices.notice?.kind === 'error' ? 12000 : 3500"
      multi-line
      location="bottom"
      @update:model-value="notices.notice = null"
    >
      <div role="status">
        <strong>{{ notices.notice?.text }}</strong>
        <ul v-if="notices.notice?.details.length" class="pl-4 details">
          <li v-for="line in notices.notice.details" :key="line">{{ line }}</li>
        </ul>
      </div>
      <template #actions>
        <v-btn variant="text" @click="notices.notice = null">Close</v-btn>
      </template>
    </v-snackbar>
  </v-app>
</template>

<style scoped>
.details {
  max-height: 40vh;
  overflow: auto;
}
</style>
