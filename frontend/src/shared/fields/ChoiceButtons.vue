<script setup lang="ts" generic="Id extends string">
/** A few choices of which one holds, each a button large enough for a thumb. */
export interface ChoiceButton<T> {
  id: T;
  words: string;
  small?: string;
}

defineProps<{ label: string; choices: ChoiceButton<Id>[]; value: Id | null; wide?: boolean }>();
const emit = defineEmits<{ choose: [id: Id] }>();
</script>

<template>
  <div class="choices" :class="{ wide }" role="radiogroup" :aria-label="label">
    <v-btn
      v-for="choice in choices"
      :key="choice.id"
      role="radio"
      :aria-checked="value === choice.id"
      :variant="value === choice.id ? 'flat' : 'outlined'"
      :color="value === choice.id ? 'primary' : undefined"
      :height="wide ? 'auto' : undefined"
      :min-height="wide ? 52 : undefined"
      @click="emit('choose', choice.id)"
    >
      <span>
        {{ choice.words }}
        <small v-if="choice.small"><br />{{ choice.small }}</small>
      </span>
    </v-btn>
  </div>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 8px 0;
}
.wide {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(176px, 1fr));
}
.wide :deep(.v-btn__content) {
  white-space: normal;
  line-height: 1.15;
  padding: 5px 0;
}
</style>
