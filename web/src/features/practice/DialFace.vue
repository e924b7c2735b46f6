<template>
  <svg class="dial" :viewBox="box" role="img" :aria-label="told">
    <circle v-if="dial.turn_mm" cx="0" cy="0" :r="R" class="face" />
    <path v-else :d="FACE" class="face" />
    <g v-for="mark in marks" :key="mark.deg" :transform="`rotate(${mark.deg})`" :class="mark.kind">
      <line :y1="-R + 10" :y2="-R + LONG[mark.kind]" x1="0" x2="0" />
      <text
        v-if="mark.mm !== undefined"
        x="0"
        :y="-R + 52"
        :transform="`rotate(${-mark.deg} 0 ${-R + 47})`"
        class="num"
      >
        {{ number(mark.mm) }}
      </text>
    </g>
    <text x="-46" y="-26" class="side">minus</text>
    <text x="46" y="-26" class="side">plus</text>
    <g v-if="small !== undefined" transform="translate(0 58)" data-part="turns">
      <circle r="24" class="face" />
      <g v-for="i in 8" :key="i" :transform="`rotate(${i * 45})`" class="least"><line y1="-23" y2="-17" /></g>
      <line x1="0" y1="4" x2="0" y2="-17" class="small" :transform="`rotate(${small})`" />
      <text y="42" class="side">turns</text>
    </g>
    <line x1="0" y1="22" x2="0" :y2="-R + 16" class="hand" :transform="`rotate(${deg})`" data-part="needle" />
    <circle r="10" class="pivot" />
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { marksOf, needleDeg, turnsOf } from './dial'

interface Props {
  /** Its face. */
  dial: Schemas['Dial']
  /** What the needle shows, mm. */
  mm: number
  /** Does it stand at its stop? */
  atStop: boolean
}
const props = defineProps<Props>()
const prefs = usePrefs()
const R = 180
/** A lever’s face ends a little below its outermost marks. */
const FACE = 'M-174 46.6A180 180 0 1 1 174 46.6Z'
const LONG = { least: 22, five: 27, ten: 34 }
/** The small hand goes on by this much a turn, degrees. */
const SMALL = 45

const marks = computed(() => marksOf(props.dial))
const deg = computed(() => needleDeg(props.dial, props.mm))
const small = computed(() => {
  const turns = turnsOf(props.dial, props.mm)
  return turns === undefined ? undefined : turns * SMALL
})
const box = computed(() => (props.dial.turn_mm ? '-190 -190 380 380' : '-190 -190 380 236'))
const number = (mm: number): string => (mm ? bareLength(mm, prefs.unit, props.dial.graduation_mm) : '0')
/** The needle is read by eye; who cannot see it is told what a glance tells, and no more. */
const told = computed(() => {
  const way = props.mm > 0 ? 'plus' : 'minus'
  const marksOff = Math.round(Math.abs(props.mm) / props.dial.graduation_mm)
  return props.atStop
    ? `The needle stands at its stop on the ${way} side`
    : `The needle stands about ${marksOff} marks to the ${way} side`
})
</script>

<style scoped>
.dial {
  width: 100%;
  height: 100%;
}
.face {
  fill: var(--sheet);
  stroke: var(--edge);
  stroke-width: 2;
}
line {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.five line {
  stroke-width: 2.2;
}
.ten line {
  stroke-width: 3.4;
}
text {
  fill: var(--ink);
  font-size: 17px;
  text-anchor: middle;
}
.side {
  fill: var(--ink-2);
  font-size: 14px;
}
.hand,
.small {
  stroke: var(--plum);
  stroke-width: 4;
  stroke-linecap: round;
}
.small {
  stroke-width: 3;
}
.pivot {
  fill: var(--plum);
}
</style>
