<template>
  <svg class="round" viewBox="0 0 648 470" role="img" :aria-label="told">
    <g :transform="`rotate(${gaugeMoves ? 0 : -turn} ${C.x} ${C.y})`">
      <circle :cx="C.x" :cy="C.y" :r="R" class="body" />
      <circle v-for="ring in [95, 125, 155, 185]" :key="ring" :cx="C.x" :cy="C.y" :r="ring" class="ring" />
      <g v-for="jaw in jaws" :key="jaw.control.id" class="jaw" :class="{ held: jaw.control.id === held }">
        <g :transform="`rotate(${-(jaw.control.at_deg ?? 0)} ${C.x} ${C.y})`">
          <path :d="`M${C.x + 76} ${C.y - 24}h34v-10h60v68h-60v-10h-34z`" />
          <rect
            v-if="jaw.control.kind === 'key'"
            :x="C.x + 186"
            :y="C.y - 7"
            width="22"
            height="14"
            class="screw"
          />
        </g>
      </g>
      <circle :cx="C.x" :cy="C.y" r="76" class="work" />
      <line
        v-for="spot in spots"
        :key="spot.station_id"
        v-bind="tick(spot.at)"
        class="spot"
        :class="{ now: spot.station_id === station }"
      />
    </g>
    <g
      v-for="jaw in jaws"
      :key="`n${jaw.control.id}`"
      class="number"
      :class="{ held: jaw.control.id === held }"
    >
      <circle :cx="mark(jaw).x" :cy="mark(jaw).y" r="17" />
      <text :x="mark(jaw).x" :y="mark(jaw).y + 6" class="num">
        {{ jaw.control.label.replace(/\D/g, '') }}
      </text>
    </g>
    <path :d="`M${C.x - 9} ${C.y}h18M${C.x} ${C.y - 9}v18`" class="axis" />
    <g class="gauge" :transform="`rotate(${-(gaugeMoves ? at : clock)} ${C.x} ${C.y})`">
      <line :x1="C.x + 84" :y1="C.y" :x2="C.x + 206" :y2="C.y - 46" />
      <circle :cx="C.x + 82" :cy="C.y" r="6" />
    </g>
    <g v-if="hammer" class="hammer" :transform="`rotate(${-(gaugeMoves ? at : clock) - 16} ${C.x} ${C.y})`">
      <rect :x="C.x + 80" :y="C.y - 17" width="52" height="34" rx="6" />
      <rect :x="C.x + 132" :y="C.y - 5" width="74" height="10" rx="5" />
    </g>
    <text x="18" y="28" class="note">Life size: nothing shows by eye, only the needle tells.</text>
    <text x="18" y="452" class="note">{{ here }}</text>
    <text x="630" y="452" class="note end">drag or roll to turn</text>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { polar } from '../../shared/scenes/polar'

interface Props {
  /** What can be taken hold of; jaws are drawn where they are. */
  hands: readonly Schemas['InHand'][]
  /** The spots to read. */
  places: readonly Schemas['Place'][]
  /** The one that is read now. */
  station: string | undefined
  /** Where the stylus stands on the work, degrees. */
  at: number
  /** Where the indicator stands, degrees; it goes round itself where it is carried by the spindle. */
  clock: number
  gaugeMoves: boolean
  /** The control that a hand holds. */
  held: string | undefined
  /** A soft hammer is in the hand that falls where the stylus stands. */
  hammer: boolean
}
const props = defineProps<Props>()
const C = { x: 324, y: 240 }
const R = 208

const jaws = computed(() =>
  props.hands.filter((hand) => hand.control.at_deg !== null && hand.control.kind !== 'tap'),
)
/** Every angle once: work that is read in several planes has the same ones in each. */
const spots = computed(() =>
  props.places.filter(
    (p, i) => p.station_id === props.station || props.places.findIndex((q) => q.at === p.at) === i,
  ),
)
/** So far the work is turned, counter-clockwise: the spot of now is at the indicator. */
const turn = computed(() => props.clock - props.at)
const mark = (jaw: Schemas['InHand']): { x: number; y: number } =>
  polar(C, 142, (jaw.control.at_deg ?? 0) + (props.gaugeMoves ? 0 : turn.value))
function tick(at: number): { x1: number; y1: number; x2: number; y2: number } {
  const inner = polar(C, 66, at)
  const outer = polar(C, 76, at)
  return { x1: inner.x, y1: inner.y, x2: outer.x, y2: outer.y }
}
const here = computed(() => {
  const near = props.places.find((p) => Math.abs(((p.at - props.at + 540) % 360) - 180) < 1)
  return near ? near.label : `${Math.round(props.at)}°`
})
const told = computed(() => `The part seen from its end, the stylus at ${here.value}`)
</script>

<style scoped>
.round {
  width: 100%;
  height: 100%;
  touch-action: none;
  cursor: grab;
}
.body {
  fill: var(--chuck);
  stroke: var(--edge);
  stroke-width: 2;
}
.ring {
  fill: none;
  stroke: var(--chuck-ring);
}
.jaw path {
  fill: var(--steel);
  stroke: var(--steel-edge);
}
.jaw.held path {
  fill: var(--acting);
  stroke: var(--plum);
  stroke-width: 3;
}
.screw {
  fill: var(--ink);
}
.work {
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
  stroke-width: 6;
}
.number circle {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.number.held circle {
  fill: var(--plum);
}
.number text {
  fill: var(--ink);
  font-size: 17px;
  font-weight: 700;
  text-anchor: middle;
}
.number.held text {
  fill: var(--on-plum);
}
.hammer rect {
  fill: var(--acting);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.axis {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
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
