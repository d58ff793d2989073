<script setup lang="ts">
/** One's own account: password, second factor, sessions. */
import { onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useDoing } from "@/app/useDoing";

import BarPage from "./BarPage.vue";
import { browserWords, roleWords, when } from "./roles";

const notices = useNotices();
const account = ref<Schemas["AccountOut"] | null>(null);
const now = ref("");
const next = ref("");
const password = ref("");
const code = ref("");
const setup = ref<Schemas["SetupOut"] | null>(null);
const codes = ref<string[]>([]);
const { busy, doing } = useDoing();

const load = () =>
  doing(async () => {
    account.value = await unwrap(api.GET("/api/account"));
  });
onMounted(load);

const changePassword = () =>
  doing(async () => {
    const body = { password: now.value, new: next.value };
    account.value = await unwrap(api.POST("/api/account/password", { body }));
    now.value = next.value = "";
    notices.said("The new password is kept; every other session has ended.");
  });

const beginFactor = () =>
  doing(async () => {
    const body = { password: password.value };
    setup.value = await unwrap(api.POST("/api/account/second-factor", { body }));
    password.value = "";
  });

const confirmFactor = () =>
  doing(async () => {
    const body = { code: code.value };
    codes.value = (await unwrap(api.POST("/api/account/second-factor/confirm", { body }))).codes;
    setup.value = null;
    code.value = "";
    account.value = await unwrap(api.GET("/api/account"));
  });

const noFactor = () =>
  doing(async () => {
    const body = { password: password.value };
    account.value = await unwrap(api.POST("/api/account/second-factor/off", { body }));
    password.value = "";
    codes.value = [];
    notices.said("The password alone signs you in from now on.");
  });

const end = (number: string) =>
  doing(async () => {
    const params = { path: { number } };
    account.value = await unwrap(api.DELETE("/api/account/sittings/{number}", { params }));
    notices.said("This session has ended.");
  });
</script>

<template>
  <BarPage title="Account">
    <template v-if="account">
      <h1>{{ account.username }}</h1>
      <p>{{ roleWords(account.role) }} of the workshop.</p>

      <section aria-label="Password">
        <h2>Password</h2>
        <form class="asked" @submit.prevent="changePassword">
          <label class="ask">
            Now
            <input v-model="now" type="password" autocomplete="current-password" required />
          </label>
          <label class="ask">
            New, 8 characters or more
            <input v-model="next" type="password" autocomplete="new-password" required />
          </label>
          <v-btn type="submit" size="large" variant="outlined" :loading="busy">
            Change the password
          </v-btn>
        </form>
      </section>

      <section aria-label="Second factor">
        <h2>Second factor</h2>
        <p v-if="codes.length" class="care">
          Write these down now, they are not shown again. Each signs you in once on the day the
          phone is lost.
        </p>
        <ul v-if="codes.length" class="codes" aria-label="Recovery codes">
          <li v-for="one in codes" :key="one">{{ one }}</li>
        </ul>
        <template v-if="account.second_factor">
          <p>
            ● A code of your phone is asked for when you sign in.
            {{ account.recovery_codes }} recovery codes are left.
          </p>
          <form class="asked" @submit.prevent="noFactor">
            <label class="ask">
              Your password
              <input v-model="password" type="password" autocomplete="current-password" required />
            </label>
            <v-btn type="submit" size="large" variant="outlined" :loading="busy">Turn it off</v-btn>
          </form>
        </template>
        <form v-else-if="setup" class="setup" @submit.prevent="confirmFactor">
          <img :src="setup.svg" alt="Square code for an authenticator app" width="240" />
          <div>
            <p>Read this square code with an authenticator app on your phone, or type there:</p>
            <p class="secret">{{ setup.secret }}</p>
            <label class="ask">
              The six figures that it shows now
              <input v-model="code" inputmode="numeric" autocomplete="one-time-code" required />
            </label>
            <v-btn type="submit" size="large" color="primary" variant="flat" :loading="busy">
              Ask for it from now on
            </v-btn>
          </div>
        </form>
        <template v-else>
          <p>A password that somebody saw or guessed opens nothing without your phone.</p>
          <form class="asked" @submit.prevent="beginFactor">
            <label class="ask">
              Your password
              <input v-model="password" type="password" autocomplete="current-password" required />
            </label>
            <v-btn type="submit" size="large" variant="outlined" :loading="busy">Set it up</v-btn>
          </form>
        </template>
      </section>

      <section aria-label="Sessions">
        <h2>Where you are signed in</h2>
        <ul class="rows">
          <li v-for="row in account.sittings" :key="row.number">
            <span>
              <strong>{{ browserWords(row.browser) }}</strong>
              {{ row.here ? "this one" : "" }}
              <br />
              since {{ when(row.begun) }}, last used about {{ when(row.seen) }}
            </span>
            <v-btn
              v-if="!row.here"
              size="large"
              variant="outlined"
              :aria-label="`End the session of ${browserWords(row.browser)}`"
              @click="end(row.number)"
            >
              End it
            </v-btn>
          </li>
        </ul>
      </section>
    </template>
    <v-progress-linear v-else indeterminate aria-label="Loading the account" />
  </BarPage>
</template>

<style scoped>
.setup {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 24px;
}
.setup img {
  background: white;
  border-radius: 8px;
}
.setup div {
  flex: 1 1 280px;
}
.secret,
.codes {
  font-family: ui-monospace, monospace;
  font-size: 1.15rem;
  overflow-wrap: anywhere;
}
.codes {
  columns: 2;
  max-width: 340px;
  list-style: none;
  padding: 8px 0;
}
.ask {
  display: block;
  margin-bottom: 8px;
}
.asked .ask {
  margin: 0;
}
</style>
