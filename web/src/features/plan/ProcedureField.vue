<template>
  <el-form-item :label="field.label" :error="error">
    <el-radio-group
      v-if="field.kind === 'choice'"
      :model-value="modelValue"
      :aria-label="field.label"
      @update:model-value="put"
    >
      <el-radio-button v-for="choice in field.choices" :key="choice.id" :value="choice.id">
        {{ choice.word }}
      </el-radio-button>
    </el-radio-group>
    <el-select
      v-else-if="items"
      :model-value="modelValue"
      :aria-label="field.label"
      :clearable="field.optional"
      no-data-text="None in the Shop yet"
      @update:model-value="put"
    >
      <el-option v-for="item in items" :key="item.id" :label="item.name" :value="item.id" />
    </el-select>
    <el-input
      v-else
      :model-value="modelValue"
      :aria-label="field.label"
      maxlength="200"
      @update:model-value="put"
    />
    <p v-if="hint" class="hint">{{ hint }}</p>
    <ToldHere :told="told" :field="`choices.${field.name}`" />
  </el-form-item>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { usePrefs } from '../../shared/prefs'
import ToldHere from './ToldHere.vue'
import type { Procedure } from './form'

interface Props {
  /** What is asked. */
  field: Procedure['fields'][number]
  /** What was typed or chosen. */
  modelValue: string
  /** The Shop, for what is chosen from there. */
  shop: Schemas['ShopOut'] | undefined
  /** What is wrong with it. */
  error: string
  /** What is to be told about it. */
  told: Schemas['Caveat'][]
}
const props = defineProps<Props>()
const emit = defineEmits<{ 'update:modelValue': [text: string] }>()
const prefs = usePrefs()

const items = computed(() => {
  if (props.field.kind === 'gauge') return props.shop?.gauges ?? []
  if (props.field.kind === 'shims' || props.field.kind === 'dowels')
    return (props.shop?.stock ?? []).filter((s) => s.kind === props.field.kind)
  return undefined
})
const hint = computed(() => {
  const size = props.field.kind === 'length' || props.field.kind === 'lengths'
  const inch = prefs.unit === 'thou' || prefs.unit === 'tenth'
  const unit = size ? `${inch ? 'inches' : 'mm'} unless you type a unit.` : ''
  return [props.field.hint, unit].filter(Boolean).join(' ')
})
/** A choice that was cleared is no choice. */
function put(value: unknown): void {
  emit('update:modelValue', typeof value === 'string' ? value : '')
}
</script>

<style scoped>
.hint {
  width: 100%;
  color: var(--ink-2);
  font-size: 14px;
  line-height: 1.35;
}
</style>
