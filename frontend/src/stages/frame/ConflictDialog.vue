<script setup lang="ts">
import { computed } from "vue";

import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";

const schemes = useScheme();
const surveys = useSurvey();
const clashing = computed(() => (surveys.conflict ? surveys : schemes));
</script>

<template>
  <v-dialog :model-value="clashing.conflict !== null" persistent aria-label="Saved in between">
    <v-card title="Somebody saved in between">
      <v-card-text v-if="clashing.conflict">
        <p>{{ clashing.conflict.detail }}</p>
        <h4 class="mt-3">Saved meanwhile</h4>
        <ul class="pl-5">
          <li v-for="words in clashing.conflict.saved_meanwhile ?? []" :key="words">{{ words }}</li>
        </ul>
        <p class="mt-3">
          <template v-if="clashing.conflict.kept_revision">
            Both versions are kept. Yours is version {{ clashing.conflict.kept_revision }} in the
            history.
          </template>
          <template v-else>Nothing of theirs or yours was overwritten.</template>
        </p>
      </v-card-text>
      <v-card-actions>
        <v-btn color="secondary" variant="flat" @click="clashing.settle(false)">
          Show what was saved
        </v-btn>
        <v-btn v-if="clashing.conflict?.kept_revision" @click="clashing.settle(true)">
          Put mine in its place
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
