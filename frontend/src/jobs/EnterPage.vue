<script setup lang="ts">
import { ref } from "vue";
import { useRouter } from "vue-router";

import CodeField from "@/app/CodeField.vue";
import LightSwitch from "@/app/LightSwitch.vue";
import { useSession } from "@/app/session";
import { useDoing } from "@/app/useDoing";

const store = useSession();
const router = useRouter();
const username = ref("");
const password = ref("");
const code = ref("");
const codeWanted = ref(false);
const { busy, doing } = useDoing();

const enter = (how: () => Promise<unknown>) =>
  doing(async () => {
    if ((await how()) === false) codeWanted.value = true;
    else await router.push({ name: "jobs" });
  });
</script>

<template>
  <v-main>
    <div class="enter">
      <div class="lights"><LightSwitch /></div>
      <h1>Strom</h1>
      <p class="lead">
        What feeds what, what charges what, and what happens when somebody forgets a switch.
      </p>
      <v-btn
        v-if="store.session?.demo_available"
        size="x-large"
        color="primary"
        variant="flat"
        block
        :loading="busy"
        @click="enter(store.enterDemo)"
      >
        Enter the demo workshop
      </v-btn>
      <form class="mt-8" @submit.prevent="enter(() => store.signIn(username, password, code))">
        <h2>Sign in to your workshop</h2>
        <v-text-field v-model="username" label="Name" autocomplete="username" required />
        <v-text-field
          v-model="password"
          label="Password"
          type="password"
          autocomplete="current-password"
          required
        />
        <CodeField v-if="codeWanted" v-model="code" />
        <v-btn type="submit" size="large" :loading="busy" block>Sign in</v-btn>
      </form>
    </div>
  </v-main>
</template>

<style scoped>
.enter {
  max-width: 420px;
  margin: 0 auto;
  padding: 24px 16px;
}
.lights {
  display: flex;
  justify-content: flex-end;
}
h1 {
  font-size: 3rem;
}
h2 {
  font-size: 1.1rem;
  margin-bottom: 12px;
}
.lead {
  font-size: 1.2rem;
  margin: 8px 0 28px;
}
</style>
