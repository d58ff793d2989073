<script setup lang="ts">
/** The entries of one load: drawn anew only when this load has changed. */
import type { Column, Item, Refused } from "./cells";

defineProps<{ item: Item; columns: Column[]; row: number; refused?: Record<string, Refused> }>();
const emit = defineEmits<{ enter: [column: Column, text: string]; focus: [] }>();

const titleOf = (column: Column) => [column.title, column.unit].filter(Boolean).join(", ");
const textOf = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value;
</script>

<template>
  <td
    v-for="(column, c) in columns"
    :key="column.id"
    :class="column.id"
    :data-title="titleOf(column)"
  >
    <select
      v-if="column.picks"
      :data-cell="`${row}:${c}`"
      :aria-label="`${item.name}, ${column.title}`"
      :value="column.show(item)"
      @change="emit('enter', column, textOf($event))"
      @focus="emit('focus')"
    >
      <option v-for="word in column.picks" :key="word" :value="word">
        {{ word.toUpperCase() }}
      </option>
    </select>
    <input
      v-else
      type="text"
      autocomplete="off"
      :inputmode="column.id === 'name' ? 'text' : 'decimal'"
      :data-cell="`${row}:${c}`"
      :aria-label="`${item.name}, ${column.title}`"
      :aria-invalid="Boolean(refused?.[column.id])"
      :title="refused?.[column.id]?.why"
      :placeholder="column.id === 'draw' ? '?' : ''"
      :disabled="item.standing && column.id.startsWith('hours')"
      :value="refused?.[column.id]?.text ?? column.show(item)"
      @change="emit('enter', column, textOf($event))"
      @focus="emit('focus')"
    />
  </td>
</template>

<style scoped>
td {
  padding: 1px;
}
input,
select {
  width: 100%;
  min-width: 0;
  height: 36px;
  padding: 0 7px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.28);
  border-radius: 6px;
}
input:disabled {
  opacity: 0.65;
}
[aria-invalid="true"] {
  border: 2px solid rgb(var(--v-theme-error));
}
.name input {
  font-weight: 600;
}
.unit select,
.current select {
  padding: 0 2px;
}
@media (max-width: 959px) {
  td {
    grid-column: span 3;
    min-width: 0;
  }
  td::before {
    content: attr(data-title);
    display: block;
    font-size: 0.8rem;
  }
  .name {
    grid-column: 1 / -1;
  }
  .name::before {
    content: none;
  }
  .hours {
    grid-column: span 4;
  }
  input,
  select {
    height: 48px;
  }
}
</style>
