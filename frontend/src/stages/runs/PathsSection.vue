<script setup lang="ts">
/** Whole paths: what is lost from the giver to the taker and back, piece by piece. */
import { ref } from "vue";

import type { Schemas } from "@/api/client";
import { amps, finePercent, length, lostVolts, volts } from "@/shared/units";

type Path = Schemas["Path"];
defineProps<{ paths: Path[] }>();

const opened = ref<string | null>(null);
const KINDS: { kind: Path["kind"]; title: string; end: string }[] = [
  { kind: "supply", title: "From a bank to what it feeds", end: "at the load" },
  { kind: "charge", title: "From a source to a bank", end: "at the bank" },
  { kind: "cranking", title: "From a bank to a starter", end: "at the starter" },
];
const over = (path: Path) => !path.kept;
const share = (path: Path) => `${Math.min(100, (100 * path.drop_v) / path.limit_v)}%`;
</script>

<template>
  <section v-for="group in KINDS" :key="group.kind" class="group">
    <h2>{{ group.title }}</h2>
    <p v-if="!paths.some((p) => p.kind === group.kind)">None in this variant.</p>
    <article v-for="path in paths.filter((p) => p.kind === group.kind)" :key="path.id">
      <button
        type="button"
        class="line"
        :aria-expanded="opened === path.id"
        @click="opened = opened === path.id ? null : path.id"
      >
        <span class="name">
          <strong>{{ path.name }}</strong>
          <small>{{ path.state }}; {{ length(path.length_m) }} of cable out and back</small>
        </span>
        <span class="bar" aria-hidden="true">
          <span :class="over(path) ? 'over' : 'kept'" :style="{ width: share(path) }"></span>
        </span>
        <span class="sum" :class="over(path) ? 'text-error' : 'text-success'">
          <strong>{{ over(path) ? "■" : "✓" }} {{ lostVolts(path.drop_v) }}</strong>
          <small
            >{{ finePercent(path.drop_percent) }} of {{ finePercent(path.limit_percent) }}</small
          >
        </span>
        <span class="end">
          <strong>{{ volts(path.at_end_v) }}</strong>
          <small>{{ group.end }}</small>
        </span>
      </button>
      <div v-if="opened === path.id" class="steps">
        <p>Allowed: {{ lostVolts(path.limit_v) }}, {{ path.why }}.</p>
        <table aria-label="Pieces of the path">
          <thead>
            <tr>
              <th scope="col">Piece</th>
              <th scope="col">Way</th>
              <th scope="col">Current</th>
              <th scope="col">Length</th>
              <th scope="col">Lost</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(step, n) in path.steps" :key="n">
              <td>{{ step.name }}</td>
              <td>{{ step.side }}</td>
              <td>{{ amps(Math.abs(step.current_a)) }}</td>
              <td>{{ step.cable ? length(step.length_m) : "contact" }}</td>
              <td>{{ lostVolts(step.drop_v) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </article>
  </section>
</template>

<style scoped>
.group {
  max-width: 980px;
}
h2 {
  font-size: 1.08rem;
  margin: 12px 0 4px;
}
article {
  border: 1px solid rgb(var(--v-theme-ink), 0.22);
  border-radius: 8px;
  margin-bottom: 6px;
  background: rgb(var(--v-theme-surface));
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 140px 118px 100px;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 56px;
  padding: 4px 12px;
  text-align: left;
  color: inherit;
}
small {
  display: block;
  line-height: 1.15;
}
.bar {
  height: 12px;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.6);
  border-radius: 3px;
  overflow: hidden;
}
.bar span {
  display: block;
  height: 100%;
}
.kept {
  background: rgb(var(--v-theme-success));
}
.over {
  background: repeating-linear-gradient(
    -45deg,
    rgb(var(--v-theme-error)) 0 6px,
    rgb(var(--v-theme-surface)) 6px 9px
  );
}
.sum,
.end {
  text-align: right;
}
.sum strong,
.end strong {
  font-size: 1.1rem;
}
.steps {
  padding: 0 12px 10px;
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  min-width: 560px;
}
th {
  text-align: left;
  font-size: 0.84rem;
}
td,
th {
  padding: 3px 8px 3px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.14);
}
td:nth-child(n + 3),
th:nth-child(n + 3) {
  text-align: right;
  white-space: nowrap;
}
@media (max-width: 959px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
  .name {
    grid-column: 1 / -1;
  }
  .bar {
    display: none;
  }
  .sum {
    text-align: left;
  }
}
</style>
