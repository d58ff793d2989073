<script setup lang="ts">
import type { Key } from "./keys";

defineProps<{ keys: Key[] }>();
const open = defineModel<boolean>({ required: true });
</script>

<template>
  <v-dialog v-model="open" aria-label="Keys">
    <v-card title="Keys">
      <v-card-text>
        <table>
          <tbody>
            <tr v-for="key in keys" :key="key.words">
              <th scope="row">
                <kbd v-if="key.shift">Shift</kbd> <kbd>{{ key.key.toUpperCase() }}</kbd>
              </th>
              <td>{{ key.words }}</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions><v-btn @click="open = false">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
th {
  text-align: left;
  padding: 4px 16px 4px 0;
  white-space: nowrap;
}
kbd {
  border: 1px solid currentColor;
  border-radius: 4px;
  padding: 1px 6px;
}
</style>
