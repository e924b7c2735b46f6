<template>
  <g class="notes">
    <text :x="LEFT" y="24">
      <tspan v-for="(line, i) in lines" :key="i" :x="LEFT" :dy="i ? '1.3em' : 0">{{ line }}</tspan>
    </text>
  </g>
</template>

<script setup lang="ts">
interface Props {
  /** What a picture says of itself at its upper left, line by line. */
  lines: readonly string[]
}
defineProps<Props>()
const LEFT = 16
</script>

<style scoped src="./scene.css"></style>
