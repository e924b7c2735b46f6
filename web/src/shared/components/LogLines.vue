<template>
  <ol>
    <li v-for="line in lines" :key="line.seq" :class="{ undone: line.undone }">
      <span class="soft small num">{{ days ? formatDay(line.at) : formatClock(line.at) }}</span>
      <RichText :parts="line.what" :resolution-mm="res" />
      <span class="soft small">{{ line.author }}</span>
    </li>
  </ol>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { formatClock, formatDay } from '../format'
import RichText from './RichText.vue'

interface Props {
  /** Log lines in the order in which they are to stand. */
  lines: readonly Schemas['LogLine'][]
  /** The finest step worth showing, mm. */
  res: number
  /** Show the day, too. */
  days?: boolean
}
defineProps<Props>()
</script>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 5px 0;
  border-top: 1px solid var(--rule);
}
.undone {
  text-decoration: line-through;
}
</style>
