<template>
  <section class="picture">
    <h2 class="label">As it stands, from above</h2>
    <svg viewBox="0 0 330 236" role="group" aria-label="The table from above; choose by touching it">
      <rect x="1" y="1" width="328" height="200" rx="4" class="top" />
      <rect v-for="y in [38, 96, 154]" :key="y" x="1" :y="y" width="328" height="8" class="slot" />
      <g :transform="lies === 'across' ? '' : 'rotate(-90 165 101)'">
        <rect
          v-for="body in bodies"
          :key="body.x"
          :x="body.x"
          y="74"
          :width="body.width"
          height="54"
          rx="4"
          class="vise"
        />
        <rect
          v-for="body in bodies"
          :key="`jaw${body.x}`"
          :x="body.x"
          :y="side === 'near' ? 118 : 74"
          :width="body.width"
          height="10"
          class="jaw"
        />
      </g>
      <g
        v-for="one in picks"
        :key="one.label"
        class="pick"
        :class="one.tip ? 'gauge' : 'bolt'"
        role="button"
        tabindex="0"
        :aria-pressed="one.on"
        :aria-label="one.label"
        @click="emit('choose', one.field, one.gives)"
        @keydown.enter.prevent="emit('choose', one.field, one.gives)"
        @keydown.space.prevent="emit('choose', one.field, one.gives)"
      >
        <rect :x="one.x - 24" :y="one.y - 24" width="48" height="48" class="touch" />
        <template v-if="one.tip">
          <line :x1="one.x" :y1="one.y" :x2="one.tip.x" :y2="one.tip.y" />
          <circle :cx="one.tip.x" :cy="one.tip.y" r="4" class="tip" />
        </template>
        <circle :cx="one.x" :cy="one.y" :r="one.tip ? 15 : 12" />
        <path v-if="one.on && !one.tip" :d="`M${one.x - 6} ${one.y}h12M${one.x} ${one.y - 6}v12`" />
      </g>
      <text x="165" y="226" class="you">you stand here</text>
    </svg>
    <p class="words">
      {{ words }}
      <button
        class="button"
        type="button"
        @click="emit('choose', 'lies', lies === 'across' ? 'along' : 'across')"
      >
        Turn it a quarter
      </button>
    </p>
    <p v-if="hint" class="hint">{{ hint }}</p>
    <template v-for="name in SEEN" :key="name">
      <p v-if="fault(`choices.${name}`)" class="fault" role="alert">{{ fault(`choices.${name}`) }}</p>
      <ToldHere :told="told" :field="`choices.${name}`" />
    </template>
  </section>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import ToldHere from './ToldHere.vue'
import { SEEN } from './edge'

interface Props {
  /** How the edge lies, which side the indicator is on, and which bolt is snug (undefined: none is asked for). */
  lies: string
  side: string
  hinge: string | undefined
  /** Two things in line instead of one. */
  two: boolean
  /** No bolt has to be snug. */
  free: boolean
  /** What to know of the snug bolt. */
  hint: string
  /** What is to be told at the start. */
  told: Schemas['Caveat'][]
  /** What is wrong at a field, or nothing. */
  fault: (field: string) => string
}
/** A place of the picture that is touched; an indicator has a tip. */
interface Pick {
  x: number
  y: number
  tip?: { x: number; y: number }
  field: string
  gives: string
  on: boolean
  label: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ choose: [field: string, value: string] }>()

const bodies = computed(() =>
  props.two
    ? [
        { x: 52, width: 106 },
        { x: 172, width: 106 },
      ]
    : [{ x: 75, width: 180 }],
)
const across = computed(() => props.lies === 'across')
/** A place of the picture as it lies across, turned with the edge: its first end is at the left, or in front. */
const turned = (x: number, y: number): { x: number; y: number } =>
  across.value ? { x, y } : { x: 165 + (y - 101), y: 101 - (x - 165) }
const stands = computed(() =>
  (['near', 'far'] as const).map((value) => {
    const near = value === 'near'
    const words = across.value
      ? near
        ? 'in front of it'
        : 'behind it'
      : near
        ? 'to its right'
        : 'to its left'
    return { value, words, ...turned(165, near ? 172 : 30), tip: turned(165, near ? 132 : 70) }
  }),
)
const bolts = computed(() => {
  if (props.hinge === undefined) return []
  const out = props.two ? 28 : 54
  return (['low', 'high'] as const).map((value) => {
    const low = value === 'low'
    const words = across.value ? (low ? 'left' : 'right') : low ? 'front' : 'back'
    return { value, words, ...turned(low ? out : 330 - out, 101) }
  })
})
/** All that can be touched, and what it gives; the snug bolt, touched again, is snug no more. */
const picks = computed<Pick[]>(() => [
  ...stands.value.map((spot) => ({
    ...spot,
    field: 'gauge_side',
    gives: spot.value,
    on: spot.value === props.side,
    label: `The indicator stands ${spot.words}`,
  })),
  ...bolts.value.map((bolt) => ({
    ...bolt,
    field: 'hinge',
    gives: bolt.value === props.hinge && props.free ? 'none' : bolt.value,
    on: bolt.value === props.hinge,
    label: `Snug bolt: ${bolt.words}`,
  })),
])
const words = computed(() => {
  const stand = stands.value.find((s) => s.value === props.side)?.words ?? ''
  const bolt = bolts.value.find((b) => b.value === props.hinge)?.words
  const held = props.hinge === undefined ? '' : bolt ? ` The ${bolt} bolt is snug.` : ' No bolt is snug.'
  return `The indicator stands ${stand}.${held}`
})
</script>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 340px;
  margin: 6px 0;
}
.top {
  fill: var(--table);
  stroke: var(--edge);
}
.slot {
  fill: var(--chuck-ring);
}
.vise {
  fill: var(--steel);
  stroke: var(--steel-edge);
}
.jaw {
  fill: var(--steel-edge);
}
.pick {
  cursor: pointer;
}
.touch {
  fill: transparent;
}
.gauge circle,
.bolt circle {
  fill: var(--sheet);
  stroke: var(--ink-2);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.gauge line {
  stroke: var(--ink-2);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.gauge[aria-pressed='true'] circle {
  fill: var(--sheet);
  stroke: var(--plum);
  stroke-width: 4;
  stroke-dasharray: none;
}
.gauge[aria-pressed='true'] line {
  stroke: var(--plum);
  stroke-width: 4;
  stroke-dasharray: none;
}
.gauge .tip {
  display: none;
}
.gauge[aria-pressed='true'] .tip {
  display: block;
  fill: var(--plum);
}
.bolt[aria-pressed='true'] circle {
  fill: var(--plum);
  stroke: var(--plum);
  stroke-dasharray: none;
}
.bolt path {
  stroke: var(--sheet);
  stroke-width: 3;
}
.you {
  font-size: 14px;
  text-anchor: middle;
  fill: var(--ink-2);
}
.picture {
  grid-row: span 4;
  margin-bottom: 12px;
}
.words {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
}
.words .button {
  min-height: 48px;
  padding: 0 12px;
}
</style>
