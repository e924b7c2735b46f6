<template>
  <component :is="tag">
    <template v-for="(part, index) in parts" :key="index">
      <em v-if="part.kind === 'words' && part.strong">{{ unbroken(part.text) }}</em>
      <template v-else-if="part.kind === 'words'">{{ unbroken(part.text) }}</template>
      <span v-else class="figure"
        ><span class="num">{{ digits(part) }}</span
        >{{ unit(part) }}</span
      >
    </template>
  </component>
</template>

<script setup lang="ts">
import { plainPart, type Part } from '../format'
import { usePrefs } from '../prefs'

interface Props {
  /** Words, lengths and angles, in order. */
  parts: readonly Part[]
  /** The finest step worth showing. */
  resolutionMm: number
  /** Element to make. */
  tag?: string
}
const props = withDefaults(defineProps<Props>(), { tag: 'span' })
const prefs = usePrefs()

/** A percent sign stays with its figure, and ± between its two. */
const unbroken = (words: string): string =>
  words.replaceAll(' %', '\u00a0%').replaceAll(' ± ', '\u00a0±\u00a0')
/** Figures stand in their own face, the unit in the words'. */
function split(part: Part): [string, string] {
  const whole = plainPart(part, prefs.unit, props.resolutionMm)
  const gap = whole.lastIndexOf(' ')
  return gap < 0 ? [whole, ''] : [whole.slice(0, gap), whole.slice(gap)]
}
const digits = (part: Part): string => split(part)[0]
const unit = (part: Part): string => split(part)[1]
</script>

<style scoped>
em {
  color: var(--plum);
  font-style: normal;
  font-weight: 720;
}
.figure {
  white-space: nowrap;
}
.num {
  letter-spacing: -0.05em;
}
</style>
