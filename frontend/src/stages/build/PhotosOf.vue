<script setup lang="ts">
/** Photographs at a step, a part or a run: taken here with the camera, kept with the job. */
import { computed, onBeforeUnmount, ref } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useUnsaved } from "@/documents/unsaved";
import { dayAndHour } from "@/shared/formats";

import { useBuild } from "./useBuild";

const props = defineProps<{
  /** What it is of: the key of a step, or the id of a part or a cable. */
  target: string;
  /** What it is of in words: its caption. */
  words: string;
  what: "step" | "part" | "cable" | "run";
}>();

const { build, photograph, sending } = useBuild();
const open = useOpenJob();
const unsaved = useUnsaved();
const camera = ref<HTMLInputElement | null>(null);
const entries = computed(
  () => build.value?.state.photos.filter((entry) => entry.target === props.target) ?? [],
);
/** Pictures that wait on this device are shown from it. */
const urls = new Map<string, string>();
onBeforeUnmount(() => urls.forEach((url) => URL.revokeObjectURL(url)));

function address(photo: string): string {
  const kept = unsaved.waiting.find((e) => e.sort === "photo" && e.photo === photo);
  if (kept?.sort !== "photo") return `/api/photos/${photo}`;
  const url = urls.get(photo) ?? URL.createObjectURL(kept.blob);
  urls.set(photo, url);
  return url;
}
const shown = computed(() =>
  entries.value.map((entry) => ({
    id: entry.id,
    src: address(entry.photo ?? ""),
    alt: `${props.words}, ${dayAndHour(entry.at)}, ${entry.author ?? "unknown"}`,
  })),
);

async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  for (const file of input.files ?? [])
    await photograph(open.ids.job, props.target, props.words, file);
  input.value = "";
}
</script>

<template>
  <div class="photographs">
    <v-btn :loading="sending" @click="camera?.click()">Photograph</v-btn>
    <input
      ref="camera"
      type="file"
      hidden
      accept="image/*"
      capture="environment"
      :aria-label="`Photograph of this ${what}`"
      @change="take"
    />
    <ul v-if="shown.length" :aria-label="`Photographs of this ${what}`">
      <li v-for="one in shown" :key="one.id">
        <a :href="one.src" target="_blank" rel="noopener">
          <img :src="one.src" :alt="one.alt" loading="lazy" />
        </a>
      </li>
    </ul>
    <p v-else>No photograph of this {{ what }} yet.</p>
  </div>
</template>

<style scoped>
.photographs {
  margin: 8px 0;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
  padding: 0;
  list-style: none;
}
img {
  height: 120px;
  border-radius: 8px;
}
p {
  font-size: 0.86rem;
}
</style>
