<script setup lang="ts">
/** What choosing comes to, line by line, before anything is changed. */
import { until } from "@vueuse/core";
import { onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";

const props = defineProps<{ cables: string[] | "all" }>();
const emit = defineEmits<{ close: [] }>();

const schemes = useScheme();
const notices = useNotices();
const onlyWeak = ref(props.cables === "all");
const found = ref<Schemas["ChosenOut"] | null>(null);

async function choose() {
  found.value = null;
  // What was entered a moment ago counts, such as a run that stays as it is.
  await until(() => schemes.busy).toBe(false);
  try {
    found.value = await unwrap(
      api.POST("/api/variants/{variant_id}/runs/choice", {
        params: { path: { variant_id: schemes.scheme?.variant ?? "" } },
        body: {
          cables: props.cables === "all" ? null : props.cables,
          only_weak: onlyWeak.value,
        },
      }),
    );
  } catch (error) {
    notices.failed(error);
    emit("close");
  }
}
onMounted(choose);

function switched(event: Event) {
  onlyWeak.value = (event.target as HTMLInputElement).checked;
  void choose();
}

async function keep() {
  const change = found.value?.change;
  if (change && (await schemes.change({ ...change }))) emit("close");
}
</script>

<template>
  <v-dialog
    :model-value="true"
    scrollable
    max-width="720"
    aria-label="Sizes and devices chosen"
    @update:model-value="emit('close')"
  >
    <v-card :title="cables === 'all' ? 'Chosen for every run' : 'Chosen for this run'">
      <v-card-text>
        <label class="weak">
          <input type="checkbox" :checked="onlyWeak" @change="switched" />
          Leave what is good as it is, even where a thinner cable would do
        </label>
        <v-progress-linear v-if="!found" indeterminate aria-label="Choosing" />
        <template v-else>
          <p class="sum">
            {{
              found.lines.length
                ? `${found.lines.length} changes, the smallest in stock that meet everything.`
                : "Nothing needs to change."
            }}
          </p>
          <ul class="lines">
            <li v-for="line in found.lines" :key="line">{{ line }}</li>
          </ul>
          <template v-if="found.left.length">
            <h3>What no size in stock heals</h3>
            <ul class="lines text-warning">
              <li v-for="line in found.left" :key="line">◆ {{ line }}</li>
            </ul>
          </template>
          <p>Runs that are marked to stay are left alone. One undo takes all of it back.</p>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Change nothing</v-btn>
        <v-btn
          color="secondary"
          variant="flat"
          :disabled="!found?.change || schemes.busy"
          @click="keep"
        >
          Make {{ found?.lines.length ?? 0 }} changes
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.weak {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
.weak input {
  width: 20px;
  height: 20px;
}
.sum {
  font-size: 1.15rem;
  font-weight: 700;
}
.lines {
  padding-left: 18px;
  margin: 6px 0 10px;
}
h3 {
  font-size: 1rem;
}
</style>
