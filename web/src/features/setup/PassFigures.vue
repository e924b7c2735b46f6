<template>
  <dl v-if="figures.length" class="figures" aria-label="Figures of this pass">
    <div v-for="figure in figures" :key="figure.id">
      <dt>{{ figure.label }}</dt>
      <dd>
        <span v-if="figure.mm !== null" class="num">{{ bareLength(figure.mm, prefs.unit, res) }}</span>
        <span v-if="figure.u_mm !== null" class="num soft">
          ±{{ bareLength(2 * figure.u_mm, prefs.unit, res) }}</span
        >
        <RichText v-if="figure.note.length" class="note" :parts="figure.note" :resolution-mm="res" />
      </dd>
    </div>
  </dl>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import { bareLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** Figures with their standard uncertainty; shown expanded, k = 2. */
  figures: readonly Schemas['Figure'][]
  /** The finest step worth showing, mm. */
  res: number
}
defineProps<Props>()
const prefs = usePrefs()
</script>

<style scoped>
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  margin: 0;
  font-size: var(--type-body);
}
dt {
  color: var(--ink-2);
  font-size: var(--type-least);
}
dd {
  margin: 0;
  font-weight: 600;
  white-space: nowrap;
}
.num {
  letter-spacing: -0.05em;
}
.note {
  margin-left: 6px;
  font-weight: 500;
}
</style>
