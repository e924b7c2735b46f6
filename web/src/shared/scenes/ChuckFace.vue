<template>
  <svg class="chuck" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <circle :cx="axis.x" :cy="axis.y" :r="R" class="body" />
    <circle v-for="ring in rings" :key="ring" :cx="axis.x" :cy="axis.y" :r="ring" class="ring" />

    <template v-if="scene.holder === 'faceplate'">
      <path v-for="slot in slots" :key="slot" :d="slot" class="slot" />
    </template>
    <g
      v-for="jaw in jaws"
      :key="jaw.jaw"
      :class="['jaw', jaw.do ?? 'rest']"
      :data-jaw="jaw.jaw"
      :data-do="jaw.do ?? ''"
      :data-angle="jaw.screenDeg"
    >
      <path :d="jaw.shape" :transform="`rotate(${-jaw.screenDeg} ${axis.x} ${axis.y})`" />
    </g>
    <circle v-if="scene.holder === 'screws'" :cx="axis.x" :cy="axis.y" :r="workPx + 40" class="sleeve" />

    <g class="work" :transform="`translate(${shift.x} ${shift.y})`" data-part="work">
      <path v-if="scene.surface === 'inside'" :d="ringPath" fill-rule="evenodd" />
      <rect
        v-else-if="scene.flats"
        :x="axis.x - workPx"
        :y="axis.y - workPx"
        :width="2 * workPx"
        :height="2 * workPx"
        rx="3"
        :transform="`rotate(${-(jaws[0]?.screenDeg ?? 0)} ${axis.x} ${axis.y})`"
      />
      <circle v-else :cx="axis.x" :cy="axis.y" :r="workPx" />
    </g>
    <g v-for="jaw in jaws.filter((j) => j.shim)" :key="`s${jaw.jaw}`" class="shim" :data-shim="jaw.jaw">
      <path :d="jaw.shim" :transform="`rotate(${-jaw.screenDeg} ${axis.x} ${axis.y})`" />
    </g>
    <circle :cx="target.x" :cy="target.y" :r="workPx" class="target" />
    <path
      v-if="scene.wanted"
      :d="`M${target.x - 6} ${target.y}h12M${target.x} ${target.y - 6}v12`"
      class="wanted"
    />
    <path :d="`M${axis.x - 8} ${axis.y}h16M${axis.x} ${axis.y - 8}v16`" class="axis" />
    <template v-if="scene.known">
      <line :x1="axis.x" :y1="axis.y" :x2="center.x" :y2="center.y" class="offset" />
      <circle :cx="center.x" :cy="center.y" r="4" class="center" />
    </template>

    <circle
      v-for="spot in spots"
      :key="spot.station_id"
      :cx="spot.x"
      :cy="spot.y"
      r="5"
      :class="['spot', spot.state]"
    />

    <g v-if="high" class="high">
      <circle :cx="high.x" :cy="high.y" r="7" />
      <line :x1="high.x" :y1="high.y" :x2="high.labelX" :y2="high.labelY" />
      <rect :x="high.labelX - 42" :y="high.labelY - 13" width="84" height="26" rx="5" />
      <text :x="high.labelX" :y="high.labelY + 5">high spot</text>
    </g>

    <g v-for="jaw in jaws" :key="`n${jaw.jaw}`" :class="['number', jaw.do ?? 'rest']">
      <circle :cx="jaw.mark.x" :cy="jaw.mark.y" r="16" />
      <text :x="jaw.mark.x" :y="jaw.mark.y + 6" class="num">{{ jaw.jaw }}</text>
    </g>

    <g class="gauge" data-part="gauge" :data-angle="gauge.deg">
      <line :x1="gauge.tip.x" :y1="gauge.tip.y" :x2="gauge.end.x" :y2="gauge.end.y" />
      <circle :cx="gauge.tip.x" :cy="gauge.tip.y" r="5" />
      <rect :x="gauge.box.x" :y="gauge.box.y" :width="gauge.width" height="30" rx="5" />
      <text :x="gauge.box.x + gauge.width / 2" :y="gauge.box.y + 21" class="num">{{ gauge.words }}</text>
    </g>

    <g
      v-for="act in acts"
      :key="`a${act.jaw}`"
      :class="['act', act.do]"
      :data-act="act.do"
      :data-jaw="act.jaw"
    >
      <path :d="act.shaft" class="shaft" />
      <path :d="act.point" class="point" />
      <text :x="act.label.x" :y="act.label.y" :text-anchor="act.anchor">{{ act.words }}</text>
    </g>

    <g v-if="tap" class="act tap" data-act="tap" :data-angle="tap.deg">
      <path :d="tap.shaft" class="shaft" />
      <path :d="tap.point" class="point" />
      <text :x="tap.label.x" :y="tap.label.y" :text-anchor="tap.anchor">{{ tap.words }}</text>
    </g>

    <SceneNotes :lines="[`${scene.seen}.`, scaleWords]" />
    <g class="notes">
      <g v-if="scene.turns">
        <path
          :d="`M${axis.x - R - 26} ${axis.y + 52}A${R + 34} ${R + 34} 0 0 1 ${axis.x - R - 26} ${axis.y - 52}`"
        />
        <path :d="`M${axis.x - R - 32} ${axis.y - 49}l6-13 6 13z`" class="head" />
        <text :x="axis.x - R - 116" :y="axis.y + 70">turn by hand</text>
      </g>
    </g>
    <HeadSides v-if="scene.lean" :scene="scene" />
    <g transform="translate(66 392)">
      <CentreMap
        :track="scene.track"
        :limit-radius-mm="scene.limit_radius_mm"
        :view-turn-deg="scene.view_turn_deg"
        x="-48"
        y="-48"
        width="96"
        height="96"
      />
    </g>
    <text x="14" y="456" class="caption">{{ scene.lean ? 'lean' : 'center' }}, pass by pass</text>
  </svg>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import CentreMap from '../components/CentreMap.vue'
import { R, axis, useChuckFace } from './chuckFace'
import HeadSides from './HeadSides.vue'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** Where everything is, in mm and degrees. */
  scene: Schemas['ChuckScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const {
  rings,
  workPx,
  shift,
  center,
  jaws,
  target,
  slots,
  tap,
  spots,
  gauge,
  high,
  acts,
  scaleWords,
  ringPath,
} = useChuckFace(props)
</script>

<style scoped src="./scene.css"></style>
<style scoped src="./ChuckFace.css"></style>
