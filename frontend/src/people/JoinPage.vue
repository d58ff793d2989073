<script setup lang="ts">
/** Follows a link of a workshop's owner: become one of the workshop, or choose a new password. */
import { onMounted, ref } from "vue";
import { useRouter } from "vue-router";

import { api, ProblemError, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";
import { useDoing } from "@/app/useDoing";

import { roleWords } from "./roles";

const router = useRouter();
const notices = useNotices();
const store = useSession();
const secret = window.location.hash.replace(/^#/, "");
const invited = ref<Schemas["InvitedOut"] | null>(null);
const problem = ref("");
const username = ref("");
const password = ref("");
const { busy, doing } = useDoing();

onMounted(async () => {
  try {
    invited.value = await unwrap(api.POST("/api/session/invitation", { body: { secret } }));
    username.value = invited.value.username ?? "";
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    problem.value = error.problem.detail;
  }
});

const join = () =>
  doing(async () => {
    const body = { secret, username: username.value, password: password.value };
    const session = await unwrap(api.POST("/api/session/join", { body }));
    store.session = session;
    if (!session.signed_in) notices.said("The new password is kept. Sign in with it.");
    await router.replace({ name: session.signed_in ? "jobs" : "enter" });
  });
</script>

<template>
  <v-main>
    <div class="join">
      <h1>Strom</h1>
      <p v-if="problem" class="lead text-error" role="alert">▲ {{ problem }}</p>
      <form v-else-if="invited" @submit.prevent="join">
        <p v-if="invited.username" class="lead">
          A new password for {{ invited.username }} in {{ invited.workshop }}.
        </p>
        <p v-else class="lead">
          {{ invited.workshop }} invites you as <strong>{{ roleWords(invited.role) }}</strong>.
        </p>
        <v-text-field
          v-model="username"
          label="Your name, to sign in with"
          autocomplete="username"
          :readonly="!!invited.username"
          required
        />
        <v-text-field
          v-model="password"
          label="A password: 8 characters or more, not a common one"
          type="password"
          autocomplete="new-password"
          required
        />
        <v-btn type="submit" size="x-large" color="primary" variant="flat" block :loading="busy">
          {{ invited.username ? "Keep this password" : "Join the workshop" }}
        </v-btn>
      </form>
      <v-progress-linear v-else indeterminate aria-label="Reading the invitation" />
    </div>
  </v-main>
</template>

<style scoped>
.join {
  max-width: 440px;
  margin: 0 auto;
  padding: 40px 16px;
}
h1 {
  font-size: 3rem;
}
.lead {
  font-size: 1.2rem;
  margin: 8px 0 24px;
}
</style>
