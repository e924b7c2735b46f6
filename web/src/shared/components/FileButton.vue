<template>
  <label class="button" :class="{ busy }">
    {{ busy ? busyLabel : label }}
    <input
      class="visually-hidden"
      type="file"
      :accept="accept"
      :capture="capture"
      :disabled="busy"
      @change="picked"
    />
  </label>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { wordsOf } from '../../api/client'

interface Props {
  /** What it says. */
  label: string
  /** What it says while the file is on its way. */
  busyLabel: string
  /** The kinds of file. */
  accept: string
  /** A tablet's camera comes first. */
  capture?: 'environment'
  /** What is done with it; what it throws is told as a fault. */
  send: (file: File) => Promise<void>
}
const props = defineProps<Props>()
const emit = defineEmits<{ fault: [words: string] }>()
const busy = ref(false)

async function picked(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  busy.value = true
  emit('fault', '')
  try {
    await props.send(file)
  } catch (error) {
    emit('fault', wordsOf(error))
  } finally {
    busy.value = false
    input.value = ''
  }
}
</script>

<style scoped>
label:focus-within {
  outline: 3px solid var(--brass);
}
.busy {
  opacity: 0.6;
}
</style>
