<template>
  <svg class="heights" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <rect :x="box.x" :y="box.y" :width="box.w" :height="box.h" rx="6" class="body" />
    <g v-if="fall" class="fall" data-part="fall" :data-x="scene.down_x" :data-y="scene.down_y">
      <path :d="fall.shaft" />
      <path :d="fall.head" class="head" />
    </g>
    <g v-for="shim in shims" :key="shim.label" class="shim" data-part="shim" :data-mm="shim.mm">
      <rect
        :x="shim.x - 42"
        :y="shim.y - 20"
        width="84"
        height="40"
        rx="5"
        :class="{ bare: shim.mm === 0 }"
      />
      <text :x="shim.x" :y="shim.y - 3">{{ shim.mm === 0 ? 'bare' : 'shim' }}</text>
      <text v-if="shim.mm !== 0" :x="shim.x" :y="shim.y + 14" class="num">{{ words(shim.mm) }}</text>
    </g>
    <g v-for="spot in spots" :key="spot.id" :class="['place', spot.state]" data-part="height">
      <rect
        :x="spot.x - spot.w / 2"
        :y="spot.y - 17"
        :width="spot.w"
        height="34"
        rx="5"
        :style="{ fill: spot.fill }"
      />
      <path v-if="spot.mark" :d="spot.mark" class="tip" />
      <text :x="spot.x" :y="spot.y + 6" class="num">{{ spot.words }}</text>
    </g>
    <SceneNotes
      :lines="[
        `${scene.seen}. ${scene.zero_word}`,
        scene.reading,
        'Triangle up: highest. Triangle down: lowest. Darker is higher.',
      ]"
    />
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength } from '../format'
import { usePrefs } from '../prefs'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** Heights over a plate or a bed, from above. */
  scene: Schemas['HeightScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()

const scale = computed(() =>
  Math.min(
    (props.scene.shims.length ? 430 : 500) / Math.max(props.scene.width_mm, 1),
    (props.scene.shims.length ? 210 : 318) / Math.max(props.scene.depth_mm, 1),
  ),
)
const px = (x: number): number => 324 + (x - props.scene.width_mm / 2) * scale.value
const py = (y: number): number => 270 - (y - props.scene.depth_mm / 2) * scale.value
const box = computed(() => ({
  x: px(0) - 46,
  y: py(props.scene.depth_mm) - 30,
  w: props.scene.width_mm * scale.value + 92,
  h: props.scene.depth_mm * scale.value + 60,
}))
const words = (mm: number, signed = false): string => bareLength(mm, prefs.unit, props.resolutionMm, signed)

const spots = computed(() => {
  const known = props.scene.spots.flatMap((s) => (s.h_mm === null ? [] : [s.h_mm]))
  const low = Math.min(...known)
  const high = Math.max(...known)
  const wide = high - low > props.resolutionMm ? high - low : 0
  const columns = new Set(props.scene.spots.map((s) => s.x_mm)).size
  return props.scene.spots.map((s) => {
    const [x, y] = [px(s.x_mm), py(s.y_mm)]
    const w = Math.min(84, Math.max(52, 500 / Math.max(columns, 1) - 6))
    const part = s.h_mm === null || !wide ? 0 : (s.h_mm - low) / wide
    const tip =
      s.h_mm !== null && wide && s.h_mm === high
        ? `M${x} ${y - 31}l8 12h-16z`
        : s.h_mm !== null && wide && s.h_mm === low
          ? `M${x} ${y + 31}l8 -12h-16z`
          : ''
    return {
      id: s.station_id,
      state: s.state,
      x,
      y,
      w,
      mark: tip,
      fill:
        s.h_mm === null
          ? 'var(--sheet)'
          : `color-mix(in srgb, var(--height) ${Math.round(8 + 42 * part)}%, var(--sheet))`,
      words: s.h_mm === null ? (s.state === 'now' ? '…' : '') : words(s.h_mm, true),
    }
  })
})
/** Shims lie outside of the corner that they go under. */
const shims = computed(() =>
  props.scene.shims.map((s) => ({
    ...s,
    x: px(s.x_mm) + (s.x_mm < props.scene.width_mm / 2 ? 4 : -4),
    y: py(s.y_mm) + (s.y_mm < props.scene.depth_mm / 2 ? 56 : -56),
  })),
)
const fall = computed(() => {
  const { down_x: dx, down_y: dy } = props.scene
  if (!dx && !dy) return undefined
  const [x, y] = [324, 270]
  const at = (mm: number, aside = 0): string =>
    `${(x + dx * mm + dy * aside).toFixed(1)} ${(y - dy * mm + dx * aside).toFixed(1)}`
  return { shaft: `M${at(-70)}L${at(52)}`, head: `M${at(76)}L${at(50, 15)}L${at(50, -15)}Z` }
})
</script>

<style scoped src="./scene.css"></style>
<style scoped>
text {
  font-size: var(--type-body);
}
.place rect {
  stroke: var(--steel-edge);
  stroke-width: 1.5;
}
.place.now rect {
  stroke: var(--plum);
  stroke-width: 4;
}
.place.bad rect,
.place.wild rect,
.place.off rect {
  stroke: var(--out);
  stroke-width: 4;
}
.place text {
  font-size: var(--type-body);
  font-weight: 600;
  text-anchor: middle;
}
.tip {
  fill: var(--ink);
}
.fall path {
  fill: none;
  stroke: var(--steel);
  stroke-width: 10;
}
.fall .head {
  fill: var(--steel);
  stroke: none;
}
.shim rect {
  fill: var(--brass);
  stroke: var(--brass-ink);
  stroke-width: 1.5;
}
.shim .bare {
  fill: var(--sheet);
  stroke-dasharray: 5 4;
}
.shim text {
  fill: var(--ink);
  font-size: var(--type-least);
  font-weight: 650;
  text-anchor: middle;
}
</style>
