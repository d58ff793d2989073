<script setup lang="ts">
defineProps<{ address?: string }>();
</script>

<template>
  <v-main>
    <div class="lost">
      <h1>There is no such page</h1>
      <p>
        The address leads nowhere{{ address ? `: ${address}` : "" }}. Perhaps a letter is missing at
        its end.
      </p>
      <v-btn color="primary" variant="flat" size="large" :to="{ name: 'jobs' }">All jobs</v-btn>
    </div>
  </v-main>
</template>

<style scoped>
.lost {
  display: grid;
  gap: 16px;
  justify-items: start;
  max-width: 640px;
  margin: 0 auto;
  padding: 48px 16px;
  overflow-wrap: anywhere;
}
</style>
