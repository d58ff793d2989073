<script setup lang="ts">
/** Addresses that open the sheet and the drill without an account: made, seen once, revoked. */
import { useQuery } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";

import type { Language, SchoolId } from "./asked";

const props = defineProps<{ variantId: string; school: SchoolId; language: Language }>();
const notices = useNotices();
const told = reactive({ name: "", days: 365 });
const made = ref<Schemas["OwnerLinkMade"] | null>(null);
const sure = ref<string | null>(null);
const STANDING = { open: "✓ open", expired: "○ expired", revoked: "○ revoked" };

const params = computed(() => ({ path: { variant_id: props.variantId } }));
const asked = useQuery(
  {
    queryKey: computed(() => ["owner links", props.variantId]),
    queryFn: () =>
      unwrap(api.GET("/api/variants/{variant_id}/owner-links", { params: params.value })),
  },
  queries,
);
const links = computed(() => asked.data.value ?? []);
const day = (moment: string | null) => moment?.slice(0, 10) ?? "not yet";

async function doing(what: () => Promise<void>) {
  try {
    await what();
    await asked.refetch();
  } catch (error) {
    notices.failed(error);
  }
}

const make = () =>
  doing(async () => {
    const body = { ...told, school: props.school, language: props.language };
    made.value = await unwrap(
      api.POST("/api/variants/{variant_id}/owner-links", { params: params.value, body }),
    );
    told.name = "";
  });

const revoke = (id: string) =>
  doing(async () => {
    sure.value = null;
    await unwrap(api.DELETE("/api/owner-links/{link_id}", { params: { path: { link_id: id } } }));
    if (made.value?.link.id === id) made.value = null;
  });

async function copy() {
  if (!made.value) return;
  try {
    await navigator.clipboard.writeText(made.value.address);
    notices.said("Copied.");
  } catch {
    notices.said("Copying is not allowed here: mark the address and copy it.");
  }
}
</script>

<template>
  <section aria-label="Owner's link" class="block">
    <p>
      The link opens this boat's sheet and drill, and takes volts that the owner reads into the Log.
      It shows nothing else of the workshop. On the phone it can be installed and read offline.
    </p>
    <form class="asked" aria-label="New link" @submit.prevent="make">
      <label class="ask">For whom <input v-model.trim="told.name" maxlength="80" required /></label>
      <label class="ask">
        Opens for, days
        <input v-model.number="told.days" type="number" min="1" max="1100" required />
      </label>
      <v-btn type="submit" size="large" color="secondary" variant="flat" :disabled="!told.name">
        Make a link
      </v-btn>
    </form>
    <div v-if="made" class="card" role="status">
      <p><strong>Copy it now: it is shown this once.</strong></p>
      <p class="address">{{ made.address }}</p>
      <v-btn size="large" @click="copy">Copy</v-btn>
    </div>
    <h2>Links</h2>
    <p v-if="!links.length">None yet.</p>
    <article v-for="link in links" :key="link.id" class="card link">
      <p>
        <strong>{{ link.name }}</strong> {{ STANDING[link.standing] }}<br />
        <small>
          made {{ day(link.created) }}, expires {{ day(link.expires) }}, last opened
          {{ day(link.seen) }}
        </small>
      </p>
      <template v-if="link.standing === 'open'">
        <v-btn v-if="sure !== link.id" size="large" @click="sure = link.id">Revoke</v-btn>
        <p v-else class="asked">
          It opens nothing from then on.
          <v-btn size="large" color="error" variant="flat" @click="revoke(link.id)">
            Revoke {{ link.name }}'s link
          </v-btn>
          <v-btn size="large" variant="text" @click="sure = null">Keep it</v-btn>
        </p>
      </template>
    </article>
  </section>
</template>

<style scoped>
.address {
  font-family: monospace !important;
  overflow-wrap: anywhere;
}
.link {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  align-items: center;
  justify-content: space-between;
}
</style>
