<template>
  <div :class="['ask', panel.ask]">
    <label class="label" for="gap">{{ panel.ask_label }}</label>
    <el-input
      id="gap"
      v-model="typed"
      class="num"
      data-quiet
      autocomplete="off"
      :inputmode="panel.ask === 'taps' ? 'numeric' : 'decimal'"
      :aria-invalid="!fits || Boolean(fault)"
      :placeholder="usual"
      @keydown.enter="enter"
    />
    <p v-if="!fits" class="fault" role="alert">A whole number of taps, 1 to 500; or leave it empty.</p>
    <p v-else-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import type { Body } from '../../api/outbox'
import { sizeTyped, sizeWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** The panel that asks to measure or count something by the way. */
  panel: Schemas['Panel']
  /** What is wrong with what was typed here before. */
  fault: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ done: [] }>()
const prefs = usePrefs()
const typed = ref('')
/** What of it has been sent. */
const told = ref('')
watch(
  () => props.panel.name,
  () => (typed.value = told.value = ''),
)
/** Taken back, it is not measured any more: what stands here then would look as if it were. */
watch(
  () => props.panel.taken_mm,
  (now, before) => {
    if (now == null && before != null) typed.value = told.value = ''
  },
)
/** In what a bare number is. */
const usual = computed(() => {
  if (props.panel.ask === 'taps') return '5'
  return props.panel.ask === 'opening' ? sizeWord(prefs.unit) : unitWord(prefs.unit)
})
/** Taps are a whole number, or were not counted. */
const fits = computed(() => {
  const text = typed.value.trim()
  return props.panel.ask !== 'taps' || !text || (/^\d{1,3}$/.test(text) && +text >= 1 && +text <= 500)
})
function enter(event: Event): void {
  if (!typed.value.trim()) return
  event.stopPropagation()
  emit('done')
}

/**
 * What is sent when the step is done; nothing while what was typed is none. Taps go with their move. What was measured goes first by
 * itself, and the step stays: what comes of it is seen before it is left.
 */
function bodies(action: Schemas['Action']): Body[] | undefined {
  const text = typed.value.trim()
  if (!text || text === told.value) return [...action.events]
  if (props.panel.ask === 'taps') {
    if (!fits.value) return undefined
    typed.value = ''
    return action.events.map((e) => (e.type === 'move_done' ? { ...e, taps: +text } : e))
  }
  told.value = text
  const size = props.panel.ask === 'opening'
  return [{ type: 'gap_measured', typed: size ? sizeTyped(text, prefs.unit) : { text, unit: prefs.unit } }]
}
defineExpose({ bodies })
</script>

<style scoped>
.ask {
  display: grid;
  gap: 6px;
}
.el-input {
  max-width: 220px;
}
.taps {
  display: flex;
  gap: 12px;
  align-items: center;
}
.taps .el-input {
  max-width: 90px;
}
</style>
