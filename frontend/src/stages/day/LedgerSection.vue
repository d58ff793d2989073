<script setup lang="ts">
/** Ampere-hours of the day from sources through banks to loads and losses, as a flow. */
import { computed } from "vue";

import { fineAmpHours, wattHours } from "@/shared/units";

import type { Sheet } from "./dayStore";

const props = defineProps<{ sheet: Sheet; names: Record<string, string> }>();

const WIDTH = 800;
const HEIGHT = 300;
const BAR = 16;
const SPACE = 12;
const SPECIAL: Record<string, string> = {
  loads: "All loads",
  lost: "Lost in banks",
  converted: "Converted",
  "other banks": "Between banks",
};

interface Box {
  id: string;
  x: number;
  y: number;
  height: number;
  ah: number;
}

const banks = computed(() => Object.keys(props.sheet.ledger.banks));
const column = (id: string) => {
  if (banks.value.includes(id)) return 1;
  if (id === "loads") return 2;
  if (props.sheet.ledger.given[id]) return 0;
  return 3;
};
const X = [4, 240, 450, 620];

/** The boxes of each column from the top, as high as what goes through them. */
const boxes = computed(() => {
  const ids = [...new Set(props.sheet.flows.flatMap((flow) => [flow.start, flow.end]))];
  const sum = (id: string, end: "start" | "end") =>
    props.sheet.flows.reduce((all, f) => all + (f[end] === id ? f.charge_ah : 0), 0);
  const columns = X.map((at, n) => ({
    at,
    rows: ids
      .filter((id) => column(id) === n)
      .map((id) => ({ id, ah: Math.max(sum(id, "start"), sum(id, "end")) })),
  }));
  const most = Math.max(...columns.map((c) => c.rows.length));
  const widest = Math.max(...columns.map((c) => c.rows.reduce((all, r) => all + r.ah, 0)), 1);
  const scale = (HEIGHT - SPACE * most - 20) / widest;
  return columns.flatMap(({ at, rows }) => {
    let y = 8;
    return rows.map(({ id, ah }): Box => {
      const box = { id, x: at, y, height: Math.max(3, ah * scale), ah };
      y += Math.max(box.height, 20) + SPACE;
      return box;
    });
  });
});

const bands = computed(() => {
  const by = new Map(boxes.value.map((box) => [box.id, { box, left: 0, right: 0 }]));
  return props.sheet.flows.flatMap((flow) => {
    const [a, b] = [by.get(flow.start), by.get(flow.end)];
    if (!a || !b) return [];
    const ha = (flow.charge_ah / a.box.ah) * a.box.height;
    const hb = (flow.charge_ah / b.box.ah) * b.box.height;
    const [ya, yb] = [a.box.y + a.right, b.box.y + b.left];
    a.right += ha;
    b.left += hb;
    const [x1, x2] = [a.box.x + BAR, b.box.x];
    const middle = (x1 + x2) / 2;
    return {
      key: `${flow.start} ${flow.end}`,
      lost: flow.end === "lost",
      words: `${label(flow.start)} to ${label(flow.end)}: ${fineAmpHours(flow.charge_ah)}`,
      path:
        `M${x1} ${ya}C${middle} ${ya} ${middle} ${yb} ${x2} ${yb}` +
        `V${yb + hb}C${middle} ${yb + hb} ${middle} ${ya + ha} ${x1} ${ya + ha}Z`,
    };
  });
});

const height = computed(() => Math.max(...boxes.value.map((b) => b.y + b.height), 120) + 14);
const label = (id: string) => SPECIAL[id] ?? props.names[id] ?? id;
const closes = computed(() => `${(props.sheet.ledger.residual * 100).toFixed(3)} %`);
const heat = computed(() => props.sheet.ledger.heat);
</script>

<template>
  <section aria-label="Ledger">
    <h2>Where the ampere-hours went</h2>
    <div class="scroll">
      <svg :viewBox="`0 0 ${WIDTH} ${height}`" role="img" aria-label="Flow of ampere-hours">
        <path
          v-for="band in bands"
          :key="band.key"
          :d="band.path"
          class="band"
          :class="{ lost: band.lost }"
        >
          <title>{{ band.words }}</title>
        </path>
        <g v-for="box in boxes" :key="box.id">
          <rect class="box" :x="box.x" :y="box.y" :width="BAR" :height="box.height" rx="3" />
          <text :x="box.x + BAR + 6" :y="box.y + Math.min(14, box.height / 2 + 6)">
            {{ label(box.id) }}
            <tspan class="ah">{{ fineAmpHours(box.ah) }}</tspan>
          </text>
        </g>
      </svg>
    </div>
    <p>
      Turned into heat: {{ wattHours(heat.banks_wh) }} inside the banks,
      {{ wattHours(heat.cables_wh) }} in cables and contacts, {{ wattHours(heat.gear_wh) }} in gear.
      The ledger closes within {{ closes }}. What sources give is shared among what it flows into in
      proportion.
    </p>
    <div class="scroll">
      <table class="plain">
        <thead>
          <tr>
            <th>Bank</th>
            <th>In</th>
            <th>Out</th>
            <th>Lost inside</th>
            <th>More than before</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(account, id) in sheet.ledger.banks" :key="id">
            <th>{{ label(String(id)) }}</th>
            <td>{{ fineAmpHours(account.in_ah) }} · {{ wattHours(account.in_wh) }}</td>
            <td>{{ fineAmpHours(account.out_ah) }} · {{ wattHours(account.out_wh) }}</td>
            <td>{{ fineAmpHours(account.lost_ah) }} · {{ wattHours(account.lost_wh) }}</td>
            <td>{{ fineAmpHours(account.more_ah) }} · {{ wattHours(account.more_wh) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.1rem;
}
.scroll {
  overflow-x: auto;
}
svg {
  width: 100%;
  min-width: 620px;
  max-width: 980px;
}
text {
  font-size: 13px;
  font-weight: 600;
  fill: rgb(var(--v-theme-on-background));
}
.ah {
  font-weight: 400;
}
.box {
  fill: rgb(var(--v-theme-primary));
}
.band {
  fill: rgb(var(--v-theme-water));
  opacity: 0.75;
}
.band.lost {
  fill: rgb(var(--v-theme-warning), 0.45);
}
.band:hover {
  opacity: 1;
}
</style>
