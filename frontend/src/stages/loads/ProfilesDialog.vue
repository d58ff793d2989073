<script setup lang="ts">
import TakeOutButton from "@/shared/TakeOutButton.vue";

import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import TextField from "@/shared/fields/TextField.vue";

const shown = defineModel<boolean>({ required: true });
const surveys = useSurvey();
const { cell, addRow } = useEdits();

function add() {
  const taken = new Set(surveys.survey?.profiles.map((p) => p.name));
  let name = "Own profile";
  for (let n = 2; taken.has(name); n++) name = `Own profile ${n}`;
  return addRow("profiles", name, { name });
}
</script>

<template>
  <v-dialog v-model="shown" max-width="560" aria-label="Profiles">
    <v-card title="Profiles: ways of living aboard">
      <v-card-text>
        <div v-for="profile in surveys.survey?.profiles" :key="profile.id" class="row">
          <TextField
            label="Name"
            :value="profile.name"
            :save="cell('profiles', profile.id, 'name')"
            required
          />
          <label class="shore">
            <input
              type="checkbox"
              :checked="profile.shore"
              @change="surveys.put('profiles', { id: profile.id, shore: !profile.shore })"
            />
            shore lead in
          </label>
          <TakeOutButton
            :what="`${profile.name}`"
            @click="surveys.remove('profiles', profile.id)"
          />
        </div>
        <v-btn @click="add">Add a profile</v-btn>
      </v-card-text>
      <v-card-actions><v-btn @click="shown = false">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.row {
  display: flex;
  gap: 12px;
  align-items: end;
  margin-bottom: 10px;
}
.row .field {
  flex: 1;
}
.shore {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 42px;
}
input[type="checkbox"] {
  width: 22px;
  height: 22px;
}
</style>
