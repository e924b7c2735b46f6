<template>
  <div class="dial">
    <DialFace :dial="data.dial" :mm="mm" :at-stop="atStop" />
    <p class="small soft">
      One mark is {{ formatSize(markMm(data.dial), prefs.unit, true) }}.
      <template v-if="data.aslant">
        <br />
        <button
          class="button"
          type="button"
          :aria-pressed="data.square"
          @click="emit('square', !data.square)"
        >
          Stand square to it <kbd>S</kbd>
        </button>
      </template>
    </p>
  </div>
</template>

<script setup lang="ts">
import { formatSize } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { markMm } from './dial'
import DialFace from './DialFace.vue'
import type { Practice } from './usePractice'

interface Props {
  /** The practice. */
  data: Practice
  /** Where the needle stands, mm. */
  mm: number
  /** Can it go no farther? */
  atStop: boolean
}
defineProps<Props>()
const emit = defineEmits<{ square: [on: boolean] }>()
const prefs = usePrefs()
</script>

<style scoped>
.dial {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 130px;
  gap: 8px;
  align-items: center;
  min-height: 0;
}
.dial > :first-child {
  min-height: 0;
  height: 100%;
}
@media (max-width: 1000px) and (orientation: portrait) {
  .dial {
    height: 290px;
  }
}
</style>
