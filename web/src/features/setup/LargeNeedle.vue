<template>
  <Teleport to="body">
    <div
      v-if="open"
      ref="sheet"
      class="large"
      :class="needle.state"
      role="dialog"
      aria-modal="true"
      aria-label="The needle, large"
      tabindex="-1"
      @keydown.esc="open = false"
    >
      <p class="lead">{{ needle.name }} · {{ state }}</p>
      <p class="huge num">{{ shows }}</p>
      <p class="lead">{{ words }}</p>
      <div class="ways">
        <button class="button" type="button" :disabled="!readable" @click="emit('take')">
          Take <kbd>Space</kbd>
        </button>
        <button class="button" type="button" :aria-pressed="prefs.hums" @click="prefs.hums = !prefs.hums">
          Tone to the aim
        </button>
        <button
          class="button"
          type="button"
          :aria-pressed="prefs.speaks"
          @click="prefs.speaks = !prefs.speaks"
        >
          Say it aloud
        </button>
        <button class="button" type="button" @click="open = false">Back <kbd>Esc</kbd></button>
      </div>
    </div>
  </Teleport>
</template>

<script setup lang="ts">
import { nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { usePrefs } from '../../shared/prefs'
import { hum } from '../../shared/sound'
import type { Needle } from '../../shared/useNeedles'

interface Props {
  /** What it shows now. */
  needle: Needle
  /** How it is: still, moving, or old and why. */
  state: string
  /** What it shows, to be read from afar. */
  shows: string
  /** How far it has to go, or what is to be read. */
  words: string
  /** Can a reading be taken now? */
  readable: boolean
  /** How far off its aim it is, in graduations; nothing when there is no aim. */
  marksOff: number | undefined
}
const props = defineProps<Props>()
const emit = defineEmits<{ take: [] }>()
const open = defineModel<boolean>({ required: true })
const prefs = usePrefs()
const sheet = ref<HTMLElement>()

watch([open, () => props.marksOff, () => prefs.hums], () =>
  hum(open.value && prefs.hums ? props.marksOff : undefined),
)
watch(open, (now) => now && void nextTick(() => sheet.value?.focus()))
onBeforeUnmount(() => hum(undefined))
</script>

<style scoped>
.large {
  position: fixed;
  z-index: 3000;
  inset: 0;
  display: grid;
  place-content: center;
  gap: 18px;
  background: var(--sheet);
  text-align: center;
}
.stale .huge,
.gone .huge,
.opening .huge {
  color: var(--ink-2);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  justify-content: center;
}
.ways .button {
  padding: 0 10px;
  white-space: nowrap;
}
.ways .button[aria-pressed='true'] {
  background: var(--plum-wash);
}
.lead {
  margin: 0;
  font-size: var(--type-head);
}
.huge {
  margin: 0;
  font-size: min(26vw, 40vh);
  font-weight: 700;
  line-height: 1;
}
</style>
