<script setup lang="ts">
import { useScheme } from "./schemeStore";

const schemes = useScheme();
</script>

<template>
  <v-dialog :model-value="schemes.conflict !== null" persistent aria-label="Saved in between">
    <v-card title="Somebody saved in between">
      <v-card-text v-if="schemes.conflict">
        <p>{{ schemes.conflict.detail }}</p>
        <h4 class="mt-3">Saved meanwhile</h4>
        <ul class="pl-5">
          <li v-for="words in schemes.conflict.saved_meanwhile ?? []" :key="words">{{ words }}</li>
        </ul>
        <p class="mt-3">
          <template v-if="schemes.conflict.kept_revision">
            Both versions are kept. Yours is version {{ schemes.conflict.kept_revision }} in the
            history.
          </template>
          <template v-else>Nothing of theirs or yours was overwritten.</template>
        </p>
      </v-card-text>
      <v-card-actions>
        <v-btn color="secondary" variant="flat" @click="schemes.settle(false)">
          Show what was saved
        </v-btn>
        <v-btn v-if="schemes.conflict?.kept_revision" @click="schemes.settle(true)">
          Put mine in its place
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
