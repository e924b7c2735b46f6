<template>
  <section class="picture" aria-label="Picture">
    <SceneView :scene="scene" :resolution-mm="view.resolution_mm" />
    <NumberPad v-if="prefs.pad && view.tray.active" class="pad" @press="emit('press', $event)" />
    <p v-if="!(prefs.pad && view.tray.active)" class="chips small" :class="{ crowded: course }">
      <span :title="view.machine">{{ view.machine }}</span>
      <span :title="view.gauge">{{ view.gauge }}{{ live ? ' · live' : '' }}</span>
    </p>
    <div class="tools" :class="{ aside: prefs.pad && view.tray.active }">
      <button type="button" :aria-pressed="prefs.pad" @click="prefs.pad = !prefs.pad">Number pad</button>
      <button v-if="course" type="button" @click="emit('course')">
        {{ course === 'turn' ? 'Turn it slowly' : 'Run it along' }} <kbd>C</kbd>
      </button>
      <button v-if="view.tray.active && !prefs.pad" type="button" @click="emit('file')">From a file</button>
      <button type="button" @click="emit('log')">Log <kbd>L</kbd></button>
      <button type="button" title="Why won’t it come in?" @click="emit('why')">Stuck? <kbd>Y</kbd></button>
    </div>
    <p v-if="waiting !== undefined" class="away" role="status">
      The server does not answer. {{ waiting }} waiting here; they go up in order when it is back.
    </p>
  </section>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { usePrefs } from '../../shared/prefs'
import SceneView from '../../shared/scenes/SceneView.vue'
import NumberPad from './NumberPad.vue'

interface Props {
  /** The set-up. */
  view: Schemas['SetupView']
  /** What is drawn of it now. */
  scene: Schemas['Panel']['scene']
  /** Is it read by a live indicator? */
  live: boolean
  /** How it can be read in one go, when it can. */
  course: Schemas['Course']['way'] | undefined
  /** How many events wait here while the server is away; nothing when it is there. */
  waiting: number | undefined
}
defineProps<Props>()
const emit = defineEmits<{ press: [key: string]; course: []; file: []; log: []; why: [] }>()
const prefs = usePrefs()
</script>

<style scoped>
.picture {
  position: relative;
  min-height: 0;
  border-right: 1px solid var(--rule);
}
.picture > :deep(svg) {
  height: calc(100% - 40px); /* the words of the tools stand below it */
}
.pad {
  position: absolute;
  bottom: 10px;
  left: 10px;
}
.chips {
  position: absolute;
  bottom: 6px;
  left: 16px;
  max-width: calc(100% - 360px); /* beside the tools */
  color: var(--ink-2);
  line-height: 1.25;
}
.chips span {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 1100px) and (orientation: landscape) {
  .crowded {
    display: none; /* one tool more; a live indicator is named beside its needle */
  }
}
.tools {
  position: absolute;
  right: 8px;
  bottom: 0;
  display: flex;
}
.tools.aside {
  flex-direction: column;
  align-items: end;
}
.tools button {
  min-height: 48px;
  padding: 0 10px;
  border: 0;
  background: transparent;
  color: var(--plum);
  font-size: var(--type-least);
  font-weight: 600;
  cursor: pointer;
}
.away {
  position: absolute;
  top: 8px;
  right: 8px;
  left: 8px;
  padding: 10px 14px;
  border: 1.5px dashed var(--unsure);
  border-radius: 8px;
  background: var(--unsure-wash);
  font-weight: 600;
}
@media (max-width: 1000px) and (orientation: portrait) {
  .picture {
    container: picture / size; /* it takes what it is given */
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
}
</style>
