<template>
  <ChuckFace v-if="scene.kind === 'chuck_face'" :scene="scene" :resolution-mm="resolutionMm" />
  <ClockWheel v-else-if="scene.kind === 'clock_wheel'" :scene="scene" :resolution-mm="resolutionMm" />
  <AxisSide v-else-if="scene.kind === 'shaft_axis'" :scene="scene" :resolution-mm="resolutionMm" />
  <TableTop v-else-if="scene.kind === 'table_top'" :scene="scene" :resolution-mm="resolutionMm" />
  <HeightMap v-else-if="scene.kind === 'height_map'" :scene="scene" :resolution-mm="resolutionMm" />
  <SpreadRows v-else-if="scene.kind === 'spread'" :scene="scene" :resolution-mm="resolutionMm" />
  <DowelView v-else :scene="scene" :resolution-mm="resolutionMm" />
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import AxisSide from './AxisSide.vue'
import ChuckFace from './ChuckFace.vue'
import ClockWheel from './ClockWheel.vue'
import DowelView from './DowelView.vue'
import HeightMap from './HeightMap.vue'
import SpreadRows from './SpreadRows.vue'
import TableTop from './TableTop.vue'

interface Props {
  /** What to draw; its kind says how. */
  scene: Schemas['Panel']['scene']
  /** The finest step worth showing. */
  resolutionMm: number
}
defineProps<Props>()
</script>
