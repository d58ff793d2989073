<script setup lang="ts">
import { watch } from "vue";

import { useAtHand } from "@/aboard/atHand";
import { useUnsaved } from "@/documents/unsaved";

import { useLight } from "./light";
import { useNotices } from "./notices";
import { useSession } from "./session";
import SignInAgain from "./SignInAgain.vue";
import UnsavedBar from "./UnsavedBar.vue";

useLight();
useAtHand();
const notices = useNotices();
const unsaved = useUnsaved();
const store = useSession();
// What an earlier page could not send goes first.
watch(
  () => store.session?.username,
  (name) => name && void unsaved.sendLeft(),
);
</script>

<template>
  <v-app>
    <router-view />
    <UnsavedBar />
    <SignInAgain />
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
