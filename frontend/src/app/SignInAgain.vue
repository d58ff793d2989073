<script setup lang="ts">
/** The session ended in the middle of the work: sign in here, and it goes on where it stood. */
import { ref } from "vue";

import CodeField from "./CodeField.vue";
import { useSession } from "./session";
import { useDoing } from "./useDoing";

const store = useSession();
const password = ref("");
const code = ref("");
const codeWanted = ref(false);
const { busy, doing } = useDoing();

const again = (how: () => Promise<unknown>) =>
  doing(async () => {
    codeWanted.value = (await how()) === false;
    if (codeWanted.value) return;
    password.value = code.value = "";
    store.goOn(true);
  });
</script>

<template>
  <v-dialog :model-value="store.ended" persistent max-width="440" aria-label="Sign in again">
    <v-card title="Your session has ended">
      <v-card-text>
        <p>What you entered is kept. Sign in, and it is saved where you left off.</p>
        <form
          id="sign-in-again"
          class="mt-4"
          @submit.prevent="again(() => store.signIn(store.session?.username ?? '', password, code))"
        >
          <v-text-field
            :model-value="store.session?.username"
            label="Name"
            autocomplete="username"
            readonly
          />
          <v-text-field
            v-model="password"
            label="Password"
            type="password"
            autocomplete="current-password"
            autofocus
          />
          <CodeField v-if="codeWanted" v-model="code" />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="store.goOn(false)">Not now</v-btn>
        <v-btn
          v-if="store.session?.demo_available"
          variant="outlined"
          :loading="busy"
          @click="again(store.enterDemo)"
        >
          Enter the demo workshop
        </v-btn>
        <v-btn
          type="submit"
          form="sign-in-again"
          color="primary"
          variant="flat"
          :loading="busy"
          :disabled="!password"
        >
          Sign in
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
