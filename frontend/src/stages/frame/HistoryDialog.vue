<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { useNotices } from "@/app/notices";
import type { Version } from "@/documents/saved";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import ChoiceButtons from "@/shared/fields/ChoiceButtons.vue";
import { dayAndHour } from "@/shared/formats";

const open = defineModel<boolean>({ required: true });
const schemes = useScheme();
const surveys = useSurvey();
const notices = useNotices();
const versions = ref<Version[]>([]);
const which = ref<"variant" | "survey">("variant");
const document = computed(() => (which.value === "variant" ? schemes : surveys));

watch([open, which], async ([shown]) => {
  if (!shown) return;
  try {
    versions.value = await document.value.history();
  } catch (error) {
    notices.failed(error);
  }
});

async function back(number: number) {
  if (await document.value.restore(number)) open.value = false;
}
</script>

<template>
  <v-dialog v-model="open" scrollable max-width="640" aria-label="History">
    <v-card title="History">
      <v-card-text>
        <ChoiceButtons
          label="History of"
          :choices="[
            { id: 'variant', words: schemes.scheme?.name ?? 'Variant' },
            { id: 'survey', words: 'Survey' },
          ]"
          :value="which"
          @choose="which = $event"
        />
        <ol>
          <li v-for="version in versions" :key="version.number" :class="{ head: version.is_head }">
            <div>
              <strong>{{ version.number }}</strong> {{ version.words }}
              <small>{{ dayAndHour(version.created) }} {{ version.author }}</small>
            </div>
            <v-btn
              v-if="!version.is_head"
              size="small"
              :disabled="document.busy"
              :aria-label="`Go back to version ${version.number}`"
              @click="back(version.number)"
            >
              Go back to this
            </v-btn>
            <span v-else>as it stands</span>
          </li>
        </ol>
      </v-card-text>
      <v-card-actions><v-btn @click="open = false">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.2);
}
small {
  display: block;
}
.head {
  font-weight: 700;
}
</style>
