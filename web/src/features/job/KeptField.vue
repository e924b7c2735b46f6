<template>
  <el-input
    v-model="draft"
    :aria-label="label"
    :placeholder="placeholder"
    :maxlength="most"
    @change="emit('keep', draft.trim())"
  />
</template>

<script setup lang="ts">
import { ref, watch } from 'vue'

interface Props {
  /** What is asked. */
  label: string
  /** What is kept of it. */
  kept: string
  /** So many letters at most. */
  most: number
  placeholder?: string
}
const props = withDefaults(defineProps<Props>(), { placeholder: '' })
const emit = defineEmits<{ keep: [text: string] }>()
/** What is typed; it is kept when the field is left. */
const draft = ref(props.kept)
watch(
  () => props.kept,
  (kept) => (draft.value = kept),
)
</script>
