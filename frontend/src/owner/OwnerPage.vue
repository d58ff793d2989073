<script setup lang="ts">
/** What the owner of a boat sees by the link: the sheet, the drill, and volts to enter. */
import { computed, onMounted, ref, watch } from "vue";

import { newId } from "@/api/sending";
import LightSwitch from "@/app/LightSwitch.vue";
import { useNotices } from "@/app/notices";
import DrillSection, { type Move } from "@/handover/DrillSection.vue";
import { handoverEntry } from "@/handover/handoverEntry";
import SheetSection from "@/handover/SheetSection.vue";

import { askScenes, enter, opened, play, secretOf, waiting, type Owner } from "./ownerApi";

const notices = useNotices();
const secret = secretOf(globalThis.location.hash);
const owner = ref<Owner | null>(null);
const kept = ref<string | null>(null);
const shut = ref(false);
const part = ref<"sheet" | "drill" | "read">("sheet");
const language = ref<Owner["language"] | undefined>();
const left = ref(waiting().length);

async function load() {
  try {
    ({ owner: owner.value, kept: kept.value } = await opened(secret, language.value));
    document.title = owner.value.boat;
    language.value ??= owner.value.language;
    if (!kept.value && !owner.value.drill.ready) await askScenes(secret);
  } catch (error) {
    owner.value = null;
    shut.value = true;
    notices.failed(error);
  }
}
onMounted(async () => {
  await load();
  if (owner.value && !kept.value) left.value = await enter(secret).catch(() => waiting().length);
});
watch(language, (now, before) => before && now && void load());

const bank = ref("");
const volts = ref<number | null>(null);
const rested = ref(0);
const ready = computed(() => bank.value && volts.value !== null && volts.value > 0);

async function sent(entry: Parameters<typeof enter>[1]) {
  try {
    left.value = await enter(secret, entry);
    notices.said(left.value ? "Kept on this phone; it is sent later." : "Kept.");
  } catch (error) {
    left.value = waiting().length;
    notices.failed(error);
  }
}

async function read() {
  if (!ready.value || volts.value === null) return;
  const at = new Date().toISOString();
  const body = { id: newId(), at, bank: bank.value, volts_v: volts.value, rested_h: rested.value };
  await sent({ sort: "reading", body });
  volts.value = null;
}

const playing = (scene: string, moves: Move[]) =>
  play(secret, language.value ?? "en", scene, moves);

function over(scene: string, outcome: "right" | "wrong" | "harm", moves: number) {
  const drill = { outcome, moves };
  const body = handoverEntry(owner.value?.revision ?? 1, { kind: "drill", target: scene, drill });
  void sent({ sort: "result", body });
}
</script>

<template>
  <v-main class="owner" :lang="language">
    <header class="asked">
      <h1>{{ owner?.boat ?? "Your boat" }}</h1>
      <LightSwitch />
      <label v-if="owner" class="ask">
        <span class="d-sr-only">Language</span>
        <select v-model="language" aria-label="Language">
          <option v-for="(name, one) in owner.languages" :key="one" :value="one">{{ name }}</option>
        </select>
      </label>
    </header>
    <p v-if="shut && !owner" class="care" role="alert">
      ▲ This address opens nothing: it has expired, was revoked, or is not complete. Ask your
      electrician for another one.
    </p>
    <p v-if="kept" class="care" role="status">
      ◆ No connection. This is the sheet as read on {{ kept.slice(0, 16).replace("T", " ") }}.
    </p>
    <p v-if="left" class="care" role="status">◆ {{ left }} not sent yet, kept on this phone.</p>
    <template v-if="owner">
      <nav aria-label="Parts">
        <button
          v-for="one in [
            { id: 'sheet', name: 'Sheet' },
            { id: 'drill', name: 'Drill' },
            { id: 'read', name: 'I read volts' },
          ] as const"
          :key="one.id"
          type="button"
          :aria-current="part === one.id ? 'true' : undefined"
          @click="part = one.id"
        >
          {{ one.name }}
        </button>
      </nav>
      <section v-if="part === 'sheet'" aria-label="Owner's sheet">
        <p v-for="line in owner.sheet.cautions" :key="line" class="care">▲ {{ line }}</p>
        <SheetSection v-for="one in owner.sheet.sections" :key="one.id" :section="one" />
        <p class="source">
          Revision {{ owner.revision }}, link open to {{ owner.expires.slice(0, 10) }}
        </p>
      </section>
      <template v-else-if="part === 'drill'">
        <p v-if="kept">The drill needs a connection: every answer is computed.</p>
        <p v-else-if="!owner.drill.ready">
          The scenes are still computed.
          <v-btn size="large" @click="load">Look again</v-btn>
        </p>
        <DrillSection v-else :scenes="owner.drill.scenes" :play="playing" @over="over" />
      </template>
      <form v-else class="block asked" aria-label="I read volts" @submit.prevent="read">
        <label class="ask">
          Battery
          <select v-model="bank" required>
            <option v-for="one in owner.banks" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
        </label>
        <label class="ask">
          Volts
          <input v-model.number="volts" type="number" inputmode="decimal" step="0.01" required />
        </label>
        <label class="ask">
          Hours at rest before
          <input v-model.number="rested" type="number" min="0" step="1" inputmode="numeric" />
        </label>
        <v-btn type="submit" size="x-large" color="secondary" variant="flat" :disabled="!ready">
          Send to the log
        </v-btn>
      </form>
    </template>
  </v-main>
</template>

<style scoped>
.owner {
  max-width: 1080px;
  margin: 0 auto;
  padding: 8px 14px 60px;
}
header {
  justify-content: space-between;
}
nav {
  display: flex;
  gap: 8px;
  margin: 10px 0;
}
nav button {
  flex: 1;
  min-height: 56px;
  padding: 4px 12px;
  font-size: 1.1rem;
  border: 2px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 12px;
}
nav button[aria-current] {
  color: rgb(var(--v-theme-on-primary));
  font-weight: 700;
  background: rgb(var(--v-theme-primary));
}
</style>
