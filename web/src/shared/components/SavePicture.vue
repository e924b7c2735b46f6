<template>
  <span class="save">
    <button v-for="kind in KINDS" :key="kind" class="button" type="button" @click="save(kind)">
      Picture, {{ kind.toUpperCase() }}
    </button>
  </span>
</template>

<script setup lang="ts">
import { pngOf, svgOf } from '../picture'

interface Props {
  /** Where the drawing is: the first one in it is taken. */
  within: () => HTMLElement | null | undefined
  /** Name of the file, without its ending. */
  name: string
}
const props = defineProps<Props>()
const KINDS = ['svg', 'png'] as const

async function save(kind: (typeof KINDS)[number]): Promise<void> {
  const drawing = props.within()?.querySelector('svg')
  if (!drawing) return
  const made = kind === 'svg' ? new Blob([svgOf(drawing)], { type: 'image/svg+xml' }) : await pngOf(drawing)
  const link = document.createElement('a')
  link.href = URL.createObjectURL(made)
  link.download = `${props.name}.${kind}`
  link.click()
  URL.revokeObjectURL(link.href)
}
</script>

<style scoped>
.save {
  display: inline-flex;
  gap: 8px;
}
</style>
