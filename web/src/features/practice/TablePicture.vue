<template>
  <svg class="table" viewBox="0 0 648 470" role="img" :aria-label="told">
    <rect x="40" y="90" width="568" height="300" rx="4" class="top" />
    <line v-for="y in [140, 190, 240, 290, 340]" :key="y" x1="40" x2="608" :y1="y" :y2="y" class="slot" />
    <rect :x="px(low) - 14" y="212" :width="px(high) - px(low) + 28" height="52" rx="3" class="jaw" />
    <g v-for="place in places" :key="place.station_id">
      <line
        :x1="px(place.at)"
        :x2="px(place.at)"
        y1="252"
        y2="264"
        class="spot"
        :class="{ now: place.station_id === station }"
      />
    </g>
    <g class="gauge">
      <line :x1="px(at)" y1="274" :x2="px(at) + 46" y2="360" />
      <circle :cx="px(at)" cy="270" r="6" />
    </g>
    <text x="18" y="28" class="note">Seen from above. Nothing shows by eye, only the needle tells.</text>
    <text x="18" y="452" class="note">{{ here }}</text>
    <text x="630" y="452" class="note end">drag or roll to wind the table</text>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { formatSize } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** The spots to read. */
  places: readonly Schemas['Place'][]
  /** The one that is read now. */
  station: string | undefined
  /** Where the stylus stands, mm along. */
  at: number
}
const props = defineProps<Props>()
const prefs = usePrefs()
const low = computed(() => Math.min(...props.places.map((p) => p.at)))
const high = computed(() => Math.max(...props.places.map((p) => p.at)))
const px = (mm: number): number => 80 + ((mm - low.value) / Math.max(high.value - low.value, 1)) * 488
const here = computed(() => {
  const near = props.places.find((p) => Math.abs(p.at - props.at) < 0.5)
  return near ? near.label : `${formatSize(props.at, prefs.unit)} along`
})
const told = computed(() => `The table from above, the stylus at ${here.value}`)
</script>

<style scoped>
.table {
  width: 100%;
  height: 100%;
  touch-action: none;
  cursor: ew-resize;
}
.top {
  fill: var(--table);
  stroke: var(--edge);
  stroke-width: 2;
}
.slot {
  stroke: var(--rule);
  stroke-width: 6;
}
.jaw {
  fill: var(--work);
  stroke: var(--work-edge);
  stroke-width: 2;
}
.spot {
  stroke: var(--ink-2);
  stroke-width: 3;
}
.spot.now {
  stroke: var(--plum);
  stroke-width: 7;
}
.gauge line {
  stroke: var(--ink);
  stroke-width: 5;
  stroke-linecap: round;
}
.gauge circle {
  fill: var(--tip);
}
.note {
  fill: var(--ink-2);
  font-size: 15px;
}
.end {
  text-anchor: end;
}
</style>
