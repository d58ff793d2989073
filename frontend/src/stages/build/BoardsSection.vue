<script setup lang="ts">
/** The gear of each place to scale, seen from the front, and what lands on every post. */
import type { Build } from "./useBuild";

defineProps<{ build: Build }>();

/** Posts so close that their labels stand on end. */
const tight = (piece: Build["book"]["boards"][number]["pieces"][number]) =>
  piece.width_mm / (piece.posts.length + 1) < 24;
const leaving = (board: Build["book"]["boards"][number]) =>
  board.leads
    .filter((lead) => lead.to)
    .map((lead) => `${lead.label} to ${lead.to}`)
    .join("; ");
const FITS = new Map<boolean | null, string>([
  [true, "✓ It fits the place as measured."],
  [false, "▲ It is larger than the place as measured."],
  [null, "◆ The place has not been measured: enter its inside on Survey."],
]);
</script>

<template>
  <section aria-label="Boards" class="block">
    <p>
      A layout to begin with, nearest to the banks first, to scale; dashed gear has the usual size
      of its kind. Hold it in place before a hole is drilled.
    </p>
    <article v-for="board in build.book.boards" :key="board.place" class="card">
      <h3>
        {{ board.name }}: {{ Math.round(board.width_mm) }} × {{ Math.round(board.height_mm) }} mm
      </h3>
      <p>{{ FITS.get(board.fits) }}</p>
      <div class="wide">
        <svg
          :viewBox="`-4 -4 ${board.width_mm + 8} ${board.height_mm + 8}`"
          role="img"
          :aria-label="`Board of ${board.name}`"
        >
          <rect class="back" :width="board.width_mm" :height="board.height_mm" />
          <path
            v-for="lead in board.leads"
            :key="`${lead.cable} ${lead.label}`"
            :d="`M${lead.x1_mm} ${lead.y1_mm}L${lead.x2_mm} ${lead.y2_mm}`"
            :class="['lead', lead.side]"
          >
            <title>{{ lead.label }}{{ lead.to ? `, to ${lead.to}` : "" }}</title>
          </path>
          <g v-for="piece in board.pieces" :key="piece.part">
            <rect
              :class="{ usual: !piece.typed }"
              class="gear"
              :x="piece.x_mm"
              :y="piece.y_mm"
              :width="piece.width_mm"
              :height="piece.height_mm"
              rx="4"
            />
            <foreignObject
              :x="piece.x_mm + 2"
              :y="piece.y_mm"
              :width="piece.width_mm - 4"
              :height="piece.height_mm * 0.6"
            >
              <div class="name">{{ piece.name }}</div>
            </foreignObject>
            <g v-for="post in piece.posts" :key="post.post">
              <circle class="post" :cx="post.x_mm" :cy="post.y_mm" r="3.2" />
              <text
                v-for="(label, n) in post.labels"
                :key="label"
                :x="post.x_mm"
                :y="post.y_mm + 10 + 8 * n"
                :text-anchor="tight(piece) ? 'end' : 'middle'"
                :transform="tight(piece) ? `rotate(-70 ${post.x_mm} ${post.y_mm + 8})` : undefined"
              >
                {{ label }}
              </text>
            </g>
          </g>
        </svg>
      </div>
      <p>
        <span class="key pos" aria-hidden="true" /> positive,
        <span class="key neg" aria-hidden="true" /> negative.
        <template v-if="leaving(board).length"> Leaving the board: {{ leaving(board) }}. </template>
      </p>
      <details>
        <summary>What lands where: {{ board.terminations.length }} posts</summary>
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">Post</th>
              <th scope="col">From the seat up</th>
              <th scope="col">Stud</th>
              <th scope="col">Torque</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in board.terminations" :key="one.post">
              <th scope="row">{{ one.post }}</th>
              <td class="words">{{ one.lugs.join(" · ") }}</td>
              <td>{{ one.stud }}</td>
              <td>{{ one.torque || "by its maker" }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </article>
  </section>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
svg {
  width: 100%;
  min-width: 640px;
  max-height: 640px;
  margin: 6px 0;
}
.back {
  fill: none;
  stroke: rgb(var(--v-theme-ink), 0.5);
  stroke-width: 1.5;
}
.lead {
  fill: none;
  stroke-width: 2;
  stroke: rgb(var(--v-theme-error));
}
.lead.neg {
  stroke: rgb(var(--v-theme-on-surface));
  stroke-dasharray: 6 4;
}
.key {
  display: inline-block;
  width: 34px;
  vertical-align: middle;
  border-top: 3px solid rgb(var(--v-theme-error));
}
.key.neg {
  border-top: 3px dashed rgb(var(--v-theme-on-surface));
}
.gear {
  fill-opacity: 0.8;
  fill: rgb(var(--v-theme-background));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.6;
}
.usual {
  stroke-dasharray: 6 4;
}
.post {
  fill: rgb(var(--v-theme-ink));
}
.name {
  font-size: 9px;
  font-weight: 700;
  line-height: 1.1;
  overflow: hidden;
}
text {
  font-size: 8px;
  fill: rgb(var(--v-theme-on-surface));
}
</style>
