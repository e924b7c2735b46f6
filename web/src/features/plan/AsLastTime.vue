<template>
  <p class="last">
    <span>
      <b>As last time in it, {{ formatDate(at) }}</b
      >: {{ words.join(' · ') || 'what follows stands as it did then' }}.
    </span>
    <el-button v-if="words.length" @click="emit('change')">Change</el-button>
  </p>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { formatDate } from '../../shared/format'

interface Props {
  /** When that set-up was opened. */
  at: string
  /** What the procedure asks. */
  fields: readonly Schemas['FieldSpec'][]
  /** What was typed or chosen, by field. */
  typed: Readonly<Record<string, string>>
  /** Names of what is chosen from the Shop, by id. */
  names: Readonly<Record<string, string>>
}
const props = defineProps<Props>()
const emit = defineEmits<{ change: [] }>()

/** What a field holds, for somebody who does not see the field; nothing of a number that is as it always is. */
function told(field: Schemas['FieldSpec']): string {
  const value = props.typed[field.name] ?? field.start
  const chosen = field.choices.find((choice) => choice.id === value)?.word ?? props.names[value]
  if (!value || value === '0' || (!chosen && value === field.start)) return ''
  const shown = chosen ?? value.replace(/mm (?=\d)/g, ' ').replace(/(\d)mm$/, '$1 mm')
  const label = field.label.replace(/^(A(?= )|[A-Z](?=[a-z]))/, (first) => first.toLowerCase())
  return `${label}${/^(yes|no|none)\b/.test(shown) ? ':' : ''} ${shown}`
}
const words = computed(() => props.fields.map(told).filter(Boolean))
</script>

<style scoped>
.last {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  padding: 10px 14px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  line-height: 1.45;
}
.last :deep(.el-button) {
  min-height: 44px;
}
</style>
