<script setup lang="ts">
/** Puts a part into the scheme between banks, or on one, landed where it usually is. */
import AddFound from "@/stages/frame/AddFound.vue";

const open = defineModel<boolean>({ required: true });
</script>

<template>
  <v-dialog v-model="open" max-width="640" aria-label="Add a part">
    <v-card>
      <v-card-text>
        <AddFound
          title="Add a part"
          :kinds="[
            'relay',
            'dcdc',
            'one_way',
            'isolator',
            'switch',
            'charger',
            'solar',
            'generator',
            'alternator',
            'inverter',
            'bank',
            'feed',
          ]"
        />
      </v-card-text>
      <v-card-actions>
        <v-btn @click="open = false">Done</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
