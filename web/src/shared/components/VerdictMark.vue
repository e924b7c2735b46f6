<template>
  <span class="verdict" :class="outcome">
    <svg :width="size" :height="size" viewBox="0 0 24 24" aria-hidden="true">
      <circle v-if="outcome === 'holds'" cx="12" cy="12" r="9" />
      <path v-else-if="outcome === 'outside'" d="M9 3.5A9 9 0 1 0 15 3.5M12 8v5" />
      <circle v-else-if="outcome === 'cannot_tell'" cx="12" cy="12" r="9" stroke-dasharray="5 4.4" />
      <path v-else-if="outcome === 'accepted'" d="M12 3a9 9 0 1 0 0 18a9 9 0 1 0 0-18M8 12h8" />
      <circle v-else cx="12" cy="12" r="3" />
    </svg>
    <span>{{ word ?? WORD[outcome] }}</span>
  </span>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** As a list shows it; `open` where there is none yet. */
type Shown = NonNullable<Schemas['Summary']['outcome']> | 'open'
interface Props {
  /** Which verdict; each has its own word and its own ring. */
  outcome: Shown
  /** Size of the ring in pixels. */
  size?: number
  /** Another word than the verdict's, for a pass that is no proof. */
  word?: string
}
withDefaults(defineProps<Props>(), { size: 18 })
const WORD: Record<Shown, string> = {
  holds: 'Holds',
  outside: 'Outside',
  cannot_tell: 'Not proven',
  accepted: 'Accepted',
  open: 'No proof yet',
}
</script>

<style scoped>
.verdict {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  color: var(--unsure);
  font-weight: 650;
  white-space: nowrap;
}
svg {
  fill: none;
  stroke: currentcolor;
  stroke-width: 3.4;
}
.holds {
  color: var(--holds);
}
.outside {
  color: var(--out);
}
.open {
  color: var(--ink-2);
}
</style>
