<script setup lang="ts">
/** Scenes to practise: the boat's own switches, and what the computation answers to each move. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useAwake } from "@/aboard/useAwake";
import { useNotices } from "@/app/notices";

import SwitchFace from "./SwitchFace.vue";

type Played = Schemas["PlayedOut"];
export type Move = Schemas["PlayIn"]["moves"][number];
type Scene = Schemas["SceneOut"];

const props = defineProps<{
  scenes: Scene[];
  /** Plays a scene with the moves made so far. */
  play: (scene: string, moves: Move[]) => Promise<Played>;
}>();
const emit = defineEmits<{
  over: [scene: string, outcome: "right" | "wrong" | "harm", moves: number];
}>();
useAwake();
const notices = useNotices();

const GRADES: Record<Scene["grade"], string> = {
  hazard: "▲ Danger",
  stranded: "■ No start",
  load_lost: "◆ No supply",
  charge_lost: "◆ Lost charge",
  none: "",
};
const ENDS = {
  right: "✓ Right",
  wrong: "◆ It works now, but not at once: this scene comes back",
  harm: "▲ That does harm: this scene comes back",
};

const scene = ref<Scene | null>(null);
const moves = ref<Move[]>([]);
const now = ref<Played | null>(null);
const busy = ref(false);
const over = computed(() => (now.value && now.value.outcome !== "open" ? now.value.outcome : null));
const next = computed(() => props.scenes.find((s) => s.is_due && s.key !== scene.value?.key));
const answers = computed(() => [...(now.value?.replies ?? [])].reverse());

async function ask(made: Move[]) {
  if (!scene.value || busy.value) return;
  busy.value = true;
  try {
    now.value = await props.play(scene.value.key, made);
    moves.value = made;
    const outcome = now.value.outcome;
    if (outcome !== "open") emit("over", scene.value.key, outcome, made.length);
  } catch (error) {
    notices.failed(error);
  } finally {
    busy.value = false;
  }
}

async function begin(one: Scene) {
  scene.value = one;
  now.value = null;
  await ask([]);
}

const make = (move: Move) => ask([...moves.value, move]);

function leave() {
  scene.value = null;
  now.value = null;
}

const choices = (id: string) => now.value?.positions[id] ?? [];

const volts = (value: number) => `${value.toFixed(1)} V`;
</script>

<template>
  <section v-if="!scene" aria-label="Drill" class="block">
    <p>
      Every scene is of this boat: from her own slips and faults. What goes wrong comes back first.
    </p>
    <ul class="scenes">
      <li v-for="one in scenes" :key="one.key" class="card">
        <button type="button" class="open" @click="begin(one)">
          <small class="grade">{{ GRADES[one.grade] }}</small>
          <strong>{{ one.head }}</strong>
          <span>{{ one.text }}</span>
          <small v-if="one.times">
            Practised {{ one.times }} {{ one.times === 1 ? "time" : "times" }},
            {{ one.in_a_row }} right in a row{{ one.is_due ? ": due again" : "" }}
          </small>
          <small v-else>Not practised yet</small>
        </button>
      </li>
    </ul>
  </section>
  <section v-else aria-label="Scene" class="block scene">
    <header>
      <small class="grade">{{ GRADES[scene.grade] }}</small>
      <h2>{{ scene.head }}</h2>
      <p class="task">{{ scene.text }}</p>
    </header>
    <v-progress-linear v-if="busy" indeterminate aria-label="Computing" />
    <template v-if="now">
      <p v-if="over" class="end" :class="over" role="status">
        <strong>{{ ENDS[over] }}.</strong>
        <span v-if="now.hint"> What went before: {{ now.hint }}</span>
      </p>
      <template v-if="over">
        <div class="acts">
          <v-btn size="large" @click="begin(scene)">Again</v-btn>
          <v-btn v-if="next" size="large" color="secondary" variant="flat" @click="begin(next)">
            Next scene
          </v-btn>
          <v-btn size="large" variant="text" @click="leave">All scenes</v-btn>
        </div>
      </template>
      <template v-else>
        <p class="engine">
          Engine <strong>{{ now.engine === "on" ? "● running" : "○ stopped" }}</strong>
        </p>
        <div class="switches">
          <fieldset v-for="one in now.switches" :key="one.switch" :disabled="busy">
            <legend>
              {{ one.name }}<small v-if="one.place">, {{ one.place }}</small>
            </legend>
            <button
              v-for="{ position, words } in choices(one.switch)"
              :key="position"
              type="button"
              :aria-pressed="one.position === position"
              @click="make({ do: 'turn', switch: one.switch, position })"
            >
              {{ words }}
            </button>
          </fieldset>
        </div>
        <div class="acts">
          <v-btn
            v-if="now.engine === 'off'"
            size="large"
            :disabled="busy"
            @click="make({ do: 'start' })"
          >
            Turn the key
          </v-btn>
          <v-btn v-else size="large" :disabled="busy" @click="make({ do: 'stop' })">
            Stop the engine
          </v-btn>
          <v-btn
            v-if="scene.goal !== 'started'"
            size="large"
            color="secondary"
            variant="flat"
            :disabled="busy"
            @click="make({ do: 'done' })"
          >
            So I leave it
          </v-btn>
          <v-btn size="large" variant="text" :disabled="busy" @click="leave">Break off</v-btn>
        </div>
      </template>
      <ol class="answers" aria-label="What followed" reversed>
        <li v-for="(reply, n) in answers" :key="answers.length - n" class="card">
          <strong>{{ reply.line.head }}</strong>
          <p>{{ reply.line.text }}</p>
          <p v-if="Object.keys(reply.volts_v).length" class="volts">
            <span v-for="(v, bank) in reply.volts_v" :key="bank">
              {{ bank }} <b>{{ volts(v) }}</b>
            </span>
          </p>
        </li>
      </ol>
      <div v-if="over" class="faces">
        <SwitchFace v-for="one in now.switches" :key="one.switch" :shown="one" />
      </div>
    </template>
  </section>
</template>

<style scoped>
.scenes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(330px, 100%), 1fr));
  gap: 10px;
  padding: 0;
  list-style: none;
}
.scenes .card {
  margin: 0;
  padding: 0;
}
.open {
  display: grid;
  gap: 2px;
  width: 100%;
  min-height: 96px;
  padding: 12px 14px;
  text-align: left;
}
.open strong {
  font-size: 1.2rem;
}
.grade {
  min-height: 1.4em;
  font-weight: 700;
}
.scene h2 {
  margin: 0;
  font-size: 1.6rem;
}
.task {
  font-size: 1.2rem;
}
.engine {
  font-size: 1.25rem;
}
.switches {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(300px, 100%), 1fr));
  gap: 12px;
}
fieldset {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 8px 12px 12px;
  border: 2px solid rgb(var(--v-theme-ink), 0.5);
  border-radius: 14px;
}
legend {
  padding: 0 6px;
  font-weight: 700;
}
fieldset button {
  flex: 1 1 76px;
  min-height: 56px;
  padding: 4px 10px;
  font-size: 1.2rem;
  border: 2px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 10px;
}
fieldset button[aria-pressed="true"] {
  color: rgb(var(--v-theme-on-primary));
  font-weight: 700;
  background: rgb(var(--v-theme-primary));
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 16px 0;
}
.acts :deep(.v-btn) {
  min-height: 56px;
}
.end {
  padding: 12px 14px;
  font-size: 1.25rem;
  border: 3px solid rgb(var(--v-theme-success));
  border-radius: 12px;
}
.end.wrong {
  border-color: rgb(var(--v-theme-warning));
}
.end.harm {
  border-color: rgb(var(--v-theme-error));
}
.answers {
  padding: 0;
  list-style: none;
}
.answers strong {
  font-size: 1.15rem;
}
.volts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.volts b {
  font-size: 1.3rem;
}
.faces {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
