<template>
  <svg class="table" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <rect x="0" y="66" width="648" :height="FLOOR - 66" class="top" />
    <g class="slots">
      <rect v-for="y in SLOTS" :key="y" x="0" :y="y" width="648" height="12" />
    </g>

    <g
      v-for="body in bodies"
      :key="body.name + body.from_mm"
      :class="['thing', body.shape]"
      data-part="body"
      :data-slope="body.slope"
    >
      <polygon v-for="(part, i) in body.parts" :key="i" :points="part.points" :class="part.kind" />
      <g v-for="bolt in body.bolts" :key="bolt.at_mm" :class="['bolt', bolt.state]">
        <circle :cx="bolt.x" :cy="bolt.y" r="12" />
        <path v-if="bolt.state !== 'loose'" :d="`M${bolt.x - 5} ${bolt.y}h10M${bolt.x} ${bolt.y - 5}v10`" />
      </g>
      <text v-if="bodies.length > 1" :x="body.middle.x" :y="body.middle.y" class="name">{{ body.name }}</text>
    </g>
    <g v-for="word in boltWords" :key="word.y" class="boltword">
      <text :x="word.x" :y="word.y" :text-anchor="word.anchor">{{ word.label }}</text>
    </g>
    <path v-if="trueLine" :d="trueLine" class="target" />

    <g class="gauge" data-part="gauge" :data-at="scene.gauge_mm">
      <line :x1="gauge.x" :y1="gauge.y" :x2="gauge.far.x" :y2="gauge.far.y" />
      <circle :cx="gauge.x" :cy="gauge.y" r="6" />
      <rect :x="gauge.far.x - 44" :y="gauge.far.y - 15" width="88" height="30" rx="6" />
      <text :x="gauge.far.x" :y="gauge.far.y + 6" class="num">{{ needle }}</text>
    </g>
    <g
      v-if="blow"
      class="blow"
      data-part="blow"
      :data-at="scene.blow?.at_mm"
      :data-toward="scene.blow?.toward"
    >
      <path :d="blow.shaft" />
      <path :d="blow.head" class="head" />
      <text :x="blow.word.x" :y="blow.word.y" :text-anchor="blow.word.anchor">{{ blow.label }}</text>
    </g>

    <rect x="0" :y="FLOOR" width="648" :height="470 - FLOOR" class="sheet" />
    <g v-if="profile" class="profile" data-part="profile">
      <text x="14" :y="FLOOR + 18" class="what">{{ scene.edge_word }}; up is nearer the indicator</text>
      <line x1="40" x2="618" :y1="profile.zero" :y2="profile.zero" class="base" />
      <line v-for="(l, i) in profile.aims" :key="`a${i}`" v-bind="l" class="aim" />
      <line v-for="(l, i) in profile.lines" :key="`l${i}`" v-bind="l" class="edge" />
      <g v-for="spot in profile.spots" :key="spot.id">
        <circle :cx="spot.x" :cy="spot.y" r="7" :class="['spot', spot.state]" />
        <text :x="spot.x" :y="FLOOR + 106" class="place num">{{ spot.label }}</text>
      </g>
      <text v-if="profile.aims[0]" x="640" :y="profile.aims[0].y2 - 6" class="aimword">aim</text>
    </g>
    <SceneNotes :lines="[`${scene.seen}.`, scaleWords]" />
  </svg>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { FLOOR, SLOTS, useTableTop } from './tableTop'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** The table from above, with what stands on it, and the edge as it was read. */
  scene: Schemas['TableScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const { bodies, boltWords, gauge, needle, blow, profile, scaleWords, trueLine } = useTableTop(props)
</script>

<style scoped src="./scene.css"></style>
<style scoped src="./TableTop.css"></style>
