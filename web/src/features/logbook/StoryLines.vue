<template>
  <dl class="story">
    <template v-for="line in lines" :key="line.word">
      <dt>{{ line.word }}</dt>
      <dd v-for="(parts, n) in line.told" :key="n"><RichText :parts="parts" :resolution-mm="res" /></dd>
    </template>
  </dl>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'

interface Props {
  /** A set-up in a few sentences. */
  story: Schemas['Story']
  /** What the indicator shows, in mm. */
  res: number
}
const props = defineProps<Props>()
/** What was measured before these stands in the log, and in the run. */
const LAST = 3
const lines = computed(() =>
  [
    { word: 'Asked', told: [props.story.asked] },
    { word: 'Found', told: [props.story.found] },
    { word: 'Done', told: [props.story.done] },
    { word: 'Afterwards', told: props.story.after.slice(-LAST) },
  ].filter((line) => line.told.length),
)
</script>

<style scoped>
.story {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 18px;
  margin: 0;
  font-size: var(--type-lead);
}
dt {
  color: var(--ink-2);
}
dd {
  grid-column: 2;
  margin: 0;
}
</style>
