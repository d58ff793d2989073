<script setup lang="ts">
/** The people of the workshop for its owner: roles, invitations, and who did what. */
import { mdiContentCopy } from "@mdi/js";
import { onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useDoing } from "@/app/useDoing";

import AuditSection from "./AuditSection.vue";
import BarPage from "./BarPage.vue";
import DiskSection from "./DiskSection.vue";
import { ROLES, roleWords, when, type Role } from "./roles";
import WorkshopSection from "./WorkshopSection.vue";

type Person = Schemas["PersonOut"];
const notices = useNotices();
const kept = ref<Schemas["PeopleOut"] | null>(null);
const name = ref("");
const role = ref<Role>("electrician");
const mail = ref("");
const link = ref<Schemas["NewLinkOut"] | null>(null);
const { busy, doing } = useDoing();

async function load() {
  kept.value = await unwrap(api.GET("/api/people"));
}
onMounted(() => doing(load));

const invite = () =>
  doing(async () => {
    const body = { name: name.value, role: role.value, mail: mail.value };
    link.value = await unwrap(api.POST("/api/people/invitations", { body }));
    name.value = mail.value = "";
    await load();
  });

const of = (person: Person) => ({ path: { person_id: person.id } });

const change = (person: Person, body: { role?: Role; out?: boolean }, words: string) =>
  doing(async () => {
    const answer = api.PATCH("/api/people/{person_id}", { params: of(person), body });
    try {
      kept.value = await unwrap(answer);
      notices.said(words);
    } catch (error) {
      await load(); // what was chosen does not stand
      throw error;
    }
  });

const setRole = (person: Person, to: Role) =>
  change(person, { role: to }, `${person.username} is ${roleWords(to).toLowerCase()} now.`);
const setOut = (person: Person) =>
  change(
    person,
    { out: !person.out },
    person.out
      ? `${person.username} can sign in again.`
      : `${person.username} is out; every session has ended.`,
  );

const newPassword = (person: Person) =>
  doing(async () => {
    const path = "/api/people/{person_id}/new-password";
    link.value = await unwrap(api.POST(path, { params: of(person) }));
    await load();
  });

const noFactor = (person: Person) =>
  doing(async () => {
    const path = "/api/people/{person_id}/second-factor";
    kept.value = await unwrap(api.DELETE(path, { params: of(person) }));
    notices.said(`${person.username} signs in with the password alone now.`);
  });

const withdraw = (id: string) =>
  doing(async () => {
    const params = { path: { invitation_id: id } };
    kept.value = await unwrap(api.DELETE("/api/people/invitations/{invitation_id}", { params }));
    if (link.value?.id === id) link.value = null;
    notices.said("This link opens nothing any more.");
  });

async function copy(text: string) {
  await navigator.clipboard.writeText(text);
  notices.said("The link is copied.");
}
</script>

<template>
  <BarPage title="People and workshop">
    <template v-if="kept">
      <section aria-label="Invite somebody">
        <h2>Invite somebody</h2>
        <form class="asked" @submit.prevent="invite">
          <label class="ask">
            Name
            <input v-model="name" maxlength="120" required />
          </label>
          <label class="ask">
            Role
            <select v-model="role">
              <option v-for="one in ROLES" :key="one.id" :value="one.id">
                {{ one.words }}: {{ one.may }}
              </option>
            </select>
          </label>
          <label v-if="kept.can_mail" class="ask">
            Mail address, if it is to be mailed
            <input v-model="mail" type="email" maxlength="254" />
          </label>
          <v-btn type="submit" size="large" color="primary" variant="flat" :loading="busy">
            Make an invitation
          </v-btn>
        </form>
        <div v-if="link" class="link" role="status">
          <p>
            <strong>{{ link.mailed ? "Mailed. The link is" : "Give this link to" }}</strong>
            {{ link.mailed ? "also here for" : "" }} {{ link.name }}: it is shown this once, works
            once, until {{ when(link.expires) }}.
          </p>
          <code>{{ link.link }}</code>
          <v-btn size="large" :prepend-icon="mdiContentCopy" @click="copy(link.link)"> Copy </v-btn>
        </div>
      </section>

      <section v-if="kept.invitations.length" aria-label="Open links">
        <h2>Links that are open</h2>
        <ul class="rows">
          <li v-for="one in kept.invitations" :key="one.id">
            <span>
              <strong>{{ one.name }}</strong>,
              {{ one.password ? "new password" : roleWords(one.role).toLowerCase() }}, until
              {{ when(one.expires) }}, made by {{ one.author ?? "somebody" }}
            </span>
            <v-btn
              size="large"
              variant="outlined"
              :aria-label="`Withdraw the link of ${one.name}`"
              @click="withdraw(one.id)"
            >
              Withdraw
            </v-btn>
          </li>
        </ul>
      </section>

      <section aria-label="People">
        <h2>People</h2>
        <ul class="rows">
          <li v-for="person in kept.people" :key="person.id" :aria-label="person.username">
            <span class="who">
              <strong>{{ person.username }}</strong>
              <template v-if="person.out"> ■ out, signs in no more</template>
              <br />
              last seen {{ when(person.last_seen) }}
              <template v-if="person.second_factor">, second factor</template>
            </span>
            <span class="acts">
              <select
                v-if="!person.out"
                class="boxed"
                :value="person.role"
                :aria-label="`Role of ${person.username}`"
                @change="setRole(person, ($event.target as HTMLSelectElement).value as Role)"
              >
                <option v-for="one in ROLES" :key="one.id" :value="one.id">{{ one.words }}</option>
              </select>
              <v-btn v-if="!person.out" size="large" variant="text" @click="newPassword(person)">
                New password
              </v-btn>
              <v-btn
                v-if="person.second_factor"
                size="large"
                variant="text"
                @click="noFactor(person)"
              >
                Second factor off
              </v-btn>
              <v-btn size="large" variant="outlined" @click="setOut(person)">
                {{ person.out ? "Let in again" : "Let out" }}
              </v-btn>
            </span>
          </li>
        </ul>
      </section>
      <WorkshopSection />
      <DiskSection />
      <AuditSection />
    </template>
    <v-progress-linear v-else indeterminate aria-label="Loading people" />
  </BarPage>
</template>

<style scoped>
.link {
  margin-top: 12px;
  padding: 12px 14px;
  border-radius: 10px;
  background: rgb(var(--v-theme-surface-variant));
}
.link code {
  display: block;
  padding: 8px 0;
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
</style>
