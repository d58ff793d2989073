<script setup lang="ts">
/** One cable: what flows, where its ends are, and what can be done with it. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";
import { amps, length, volts } from "@/shared/units";

import { useBench } from "./benchStore";
import { usePicking } from "./picking";
import { useWiring } from "./wiring";

type Cable = Schemas["Cable"];
const props = defineProps<{ cable: Cable }>();

const schemes = useScheme();
const bench = useBench();
const picking = usePicking();
const wiring = useWiring();

const point = computed(() => bench.result?.point);
const known = computed(() =>
  schemes.scheme?.cable_lengths.find((found) => found.cable === props.cable.id),
);
const ENDS = ["start", "end"] as const;

function post(ref: string): string {
  return schemes.scheme?.post_names[ref] ?? ref;
}
</script>

<template>
  <p class="now">
    {{ amps(Math.abs(point?.conductor_a[cable.id] ?? 0)) }}
    <span>drop {{ volts(point?.conductor_drop_v[cable.id] ?? 0) }}</span>
  </p>
  <p>
    {{ cable.gauge }} · {{ length(cable.length_m) }} one way · {{ cable.insulation_c }} °C
    insulation
  </p>
  <p v-if="cable.estimated" class="text-warning">
    <strong>◆ length estimated</strong>: measure its run on the stage Survey
  </p>
  <p v-else-if="known?.how === 'run'">length by the measured run</p>
  <template v-if="picking.moving">
    <p><strong>Pick the post</strong> on the drawing or here.</p>
    <p class="care">
      Aboard: chargers off, solar covered, negative off first, before any cable is moved.
    </p>
    <ul class="posts">
      <li v-for="ref in picking.moving.posts" :key="ref">
        <v-btn size="small" block @click="picking.moveTo(ref)">{{ post(ref) }}</v-btn>
      </li>
    </ul>
    <v-btn variant="text" @click="picking.drop()">Leave it where it is</v-btn>
  </template>
  <div v-else class="ends">
    <v-btn v-for="end in ENDS" :key="end" @click="picking.startMove(cable.id, end)">
      Move the end at {{ post(cable[end]) }}
    </v-btn>
    <v-btn
      v-for="way in wiring.edits?.before_switch"
      :key="way.post"
      @click="
        wiring.change({ type: 'move_cable_end', cable: cable.id, end: way.end, to: way.post })
      "
    >
      Take it before the switch, to {{ post(way.post) }}
    </v-btn>
    <v-btn v-if="wiring.edits?.insert?.length" :disabled="wiring.asking">
      Put a part in
      <v-menu activator="parent">
        <v-list aria-label="Parts to put in">
          <v-list-item
            v-for="choice in wiring.edits.insert"
            :key="choice.kind"
            @click="wiring.edit('insert', cable.id, choice.kind)"
          >
            {{ choice.words }}
          </v-list-item>
        </v-list>
      </v-menu>
    </v-btn>
    <v-btn
      v-for="end in ENDS"
      :key="`park ${end}`"
      variant="text"
      @click="wiring.change({ type: 'park_end', cable: cable.id, end })"
    >
      Park the end at {{ post(cable[end]) }}
    </v-btn>
    <v-btn variant="text" @click="wiring.change({ type: 'remove_cable', cable: cable.id })">
      Take the cable out
    </v-btn>
  </div>
</template>

<style scoped src="./picked.css"></style>
