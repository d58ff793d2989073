<script setup lang="ts">
/** Practice aboard with the real switches: what was done, how long it took, who was there. */
import { useIntervalFn } from "@vueuse/core";
import { computed, reactive, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { handoverEntry } from "@/handover/handoverEntry";
import SwitchFace from "@/handover/SwitchFace.vue";

import { useHandoverEntries } from "./useHandoverEntries";

const props = defineProps<{ handover: Schemas["HandoverOut"]; variantId: string }>();
const emit = defineEmits<{ kept: [] }>();
const notices = useNotices();
const enter = useHandoverEntries();

/** Everything that is turned by hand, as the sheet tells it. */
const items = computed(() =>
  props.handover.sheet.sections
    .filter((s) => s.id === "situations" || s.id === "emergency")
    .flatMap((s) => s.lines.filter((line) => line.switches.length)),
);
const ticked = ref<string[]>([]);
const names = reactive({ owner: "", electrician: "" });
const started = ref<number | null>(null);
const seconds = ref(0);
const sending = ref(false);
useIntervalFn(() => {
  if (started.value !== null) seconds.value = Math.round((Date.now() - started.value) / 1000);
}, 500);
const clock = (s: number) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")} min`;

async function keep() {
  sending.value = true;
  const practised = { items: ticked.value, seconds: seconds.value, ...names };
  try {
    const fields = { kind: "practised", target: "aboard", practised } as const;
    const entry = handoverEntry(props.handover.revision, fields);
    await enter(props.variantId, entry, () => emit("kept"));
    ticked.value = [];
    started.value = null;
    seconds.value = 0;
  } catch (error) {
    notices.failed(error);
  } finally {
    sending.value = false;
  }
}
</script>

<template>
  <section aria-label="Practice aboard" class="block">
    <p class="care">
      ▲ The owner turns the real switches, you stand by. Engine in neutral, nobody near belts.
    </p>
    <p class="clock">
      <strong>{{ clock(seconds) }}</strong>
      <v-btn v-if="started === null" size="large" @click="started = Date.now()">
        Start the clock
      </v-btn>
    </p>
    <ol class="items">
      <li v-for="line in items" :key="line.key" class="card">
        <label class="tick">
          <input v-model="ticked" type="checkbox" :value="line.head" />
          <span>
            <strong>{{ line.head }}</strong>
            <small>{{ line.text }}</small>
          </span>
        </label>
        <div class="faces">
          <SwitchFace v-for="one in line.switches" :key="one.switch" :shown="one" />
        </div>
      </li>
    </ol>
    <form class="asked" aria-label="Names" @submit.prevent="keep">
      <label class="ask">Owner <input v-model.trim="names.owner" maxlength="80" required /></label>
      <label class="ask">
        Electrician <input v-model.trim="names.electrician" maxlength="80" />
      </label>
      <v-btn
        type="submit"
        size="large"
        color="secondary"
        variant="flat"
        :loading="sending"
        :disabled="!ticked.length || !names.owner"
      >
        Keep the practice
      </v-btn>
    </form>
    <h2>Practised so far</h2>
    <p v-if="!handover.practised.length">Not yet.</p>
    <ul>
      <li v-for="one in handover.practised" :key="one.id">
        {{ one.at.slice(0, 10) }}: {{ one.practised.owner }}, {{ one.practised.items.length }} done
        in {{ clock(one.practised.seconds) }}
        <small v-if="one.practised.electrician">with {{ one.practised.electrician }}</small>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.clock {
  display: flex;
  gap: 18px;
  align-items: center;
  font-size: 1.6rem;
}
.items {
  padding: 0;
  list-style: none;
}
.tick {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 56px;
}
.tick input {
  flex: none;
  width: 32px;
  height: 32px;
}
.tick span {
  display: grid;
}
.tick strong {
  font-size: 1.2rem;
}
.faces {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 6px 0 2px 46px;
}
</style>
