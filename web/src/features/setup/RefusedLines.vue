<template>
  <div v-for="entry in entries" :key="entry.event.id" class="refused" role="alert">
    <span class="fault">{{ entry.problem?.detail }} {{ entry.problem?.fix }}</span>
    <button class="button" type="button" @click="emit('seen', entry.event.id)">Seen</button>
  </div>
</template>

<script setup lang="ts">
import type { Entry } from '../../api/outbox'

interface Props {
  /** What the server would not take, with why. */
  entries: readonly Entry[]
}
defineProps<Props>()
const emit = defineEmits<{ seen: [eventId: string] }>()
</script>

<style scoped>
.refused {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  padding: 6px 20px;
  border-top: 1px solid var(--rule);
  background: var(--out-wash);
}
</style>
