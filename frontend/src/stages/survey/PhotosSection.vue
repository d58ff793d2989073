<script setup lang="ts">
import { mdiCameraPlus, mdiClose } from "@mdi/js";
import { onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { newId } from "@/api/sending";
import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useUnsaved, type PhotoEntry } from "@/documents/unsaved";
import TextField from "@/shared/fields/TextField.vue";

const open = useOpenJob();
const notices = useNotices();
const unsaved = useUnsaved();
const photos = ref<Schemas["PhotoOut"][]>([]);
const picker = ref<HTMLInputElement | null>(null);
const busy = ref(false);
const params = () => ({ path: { job_id: open.ids.job } });

async function load() {
  try {
    photos.value = await unwrap(api.GET("/api/jobs/{job_id}/photos", { params: params() }));
  } catch (error) {
    notices.failed(error);
  }
}

async function add(event: Event) {
  const input = event.target as HTMLInputElement;
  busy.value = true;
  for (const file of input.files ?? []) {
    try {
      const entry = unsaved.add<PhotoEntry>({
        sort: "photo",
        of: open.ids.job,
        photo: newId(),
        blob: file,
      });
      await unsaved.deliver(entry, () => void load());
    } catch (error) {
      notices.failed(error);
    }
  }
  input.value = "";
  busy.value = false;
  await load();
}

const caption = (id: string) => async (words: string) => {
  try {
    const at = { path: { photo_id: id } };
    await unwrap(api.PUT("/api/photos/{photo_id}", { params: at, body: { caption: words } }));
    await load();
    return true;
  } catch (error) {
    notices.failed(error);
    return false;
  }
};

async function remove(id: string) {
  if (!window.confirm("Take this photograph out for good?")) return;
  try {
    await unwrap(api.DELETE("/api/photos/{photo_id}", { params: { path: { photo_id: id } } }));
    await load();
  } catch (error) {
    notices.failed(error);
  }
}

onMounted(load);
</script>

<template>
  <section aria-label="Photographs" class="block">
    <p>
      JPEG, PNG or WebP. They are scaled and cleaned of position and camera data, and stay on this
      server; the job archive carries them, a job file does not.
    </p>
    <v-btn size="large" :prepend-icon="mdiCameraPlus" :loading="busy" @click="picker?.click()">
      Add photographs
    </v-btn>
    <input
      ref="picker"
      type="file"
      accept="image/jpeg,image/png,image/webp"
      multiple
      hidden
      aria-label="Choose photographs"
      @change="add"
    />
    <ul class="photos">
      <li v-for="photo in photos" :key="photo.id">
        <a :href="`/api/photos/${photo.id}`" target="_blank" rel="noopener">
          <img
            :src="`/api/photos/${photo.id}`"
            :alt="photo.caption || 'Photograph without words'"
            loading="lazy"
            :width="photo.width"
            :height="photo.height"
          />
        </a>
        <div class="words">
          <TextField label="What it shows" :value="photo.caption" :save="caption(photo.id)" />
          <v-btn
            :icon="mdiClose"
            size="small"
            variant="text"
            aria-label="Take this photograph out"
            @click="remove(photo.id)"
          />
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.photos {
  list-style: none;
  padding: 0;
  margin-top: 14px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 16px;
}
img {
  width: 100%;
  height: 190px;
  object-fit: cover;
  border-radius: 10px;
}
.words {
  display: flex;
  align-items: end;
}
.words .field {
  flex: 1;
}
</style>
