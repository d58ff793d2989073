<script setup lang="ts">
/** Who is signed in, and what is theirs: account, people, the way out. */
import { mdiAccount, mdiAccountGroup, mdiLogout } from "@mdi/js";
import { useRouter } from "vue-router";

import { useSession } from "./session";

const store = useSession();
const router = useRouter();

async function leave() {
  await store.signOut();
  await router.push({ name: "enter" });
}
</script>

<template>
  <v-btn
    :prepend-icon="mdiAccount"
    variant="text"
    class="text-none"
    :aria-label="`Account menu of ${store.session?.username}`"
  >
    <span class="name">{{ store.session?.username }}</span>
    <v-menu activator="parent">
      <v-list aria-label="Account">
        <v-list-item :prepend-icon="mdiAccount" :to="{ name: 'account' }">
          Password, second factor, sessions
        </v-list-item>
        <v-list-item
          v-if="store.session?.role === 'owner'"
          :prepend-icon="mdiAccountGroup"
          :to="{ name: 'people' }"
        >
          People and workshop
        </v-list-item>
        <v-list-item :prepend-icon="mdiLogout" @click="leave">Sign out</v-list-item>
      </v-list>
    </v-menu>
  </v-btn>
</template>

<style scoped>
@media (max-width: 600px) {
  .name {
    max-width: 70px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
}
</style>
