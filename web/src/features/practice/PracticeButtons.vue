<template>
  <div class="acts">
    <button v-if="data.hands.length" class="button" type="button" @click="emit('grip', 'tighten')">
      Tighten <kbd>T</kbd>
    </button>
    <button
      v-if="data.hands.length && data.grip !== 'snug'"
      class="button"
      type="button"
      @click="emit('grip', 'loosen')"
    >
      Loosen <kbd>O</kbd>
    </button>
    <button class="button" type="button" @click="emit('again')">Read again <kbd>R</kbd></button>
    <button v-if="data.advice_kind === 'asked'" class="button" type="button" @click="emit('ask')">
      Ask <kbd>H</kbd>
    </button>
    <button class="button" type="button" @click="emit('fault')">Name a fault <kbd>F</kbd></button>
    <button class="button main" type="button" @click="emit('good')">It’s good <kbd>G</kbd></button>
  </div>
</template>

<script setup lang="ts">
import type { Practice } from './usePractice'

interface Props {
  /** The practice. */
  data: Practice
}
defineProps<Props>()
const emit = defineEmits<{
  grip: [way: 'tighten' | 'loosen']
  again: []
  ask: []
  fault: []
  good: []
}>()
</script>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.button {
  min-height: 48px;
  padding: 0 12px;
}
.main {
  margin-left: auto;
}
@media (max-width: 1100px) {
  kbd {
    display: none;
  }
}
</style>
