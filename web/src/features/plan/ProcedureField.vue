<template>
  <AskedField
    :field="field"
    :model-value="modelValue"
    :error="error"
    :from="items"
    :more="unit"
    @update:model-value="emit('update:modelValue', $event)"
  >
    <ToldHere :told="told" :field="`choices.${field.name}`" />
  </AskedField>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import AskedField from '../../shared/components/AskedField.vue'
import { usePrefs } from '../../shared/prefs'
import ToldHere from './ToldHere.vue'

interface Props {
  /** What is asked. */
  field: Schemas['FieldSpec']
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
const unit = computed(() => {
  if (props.field.kind !== 'length' && props.field.kind !== 'lengths') return ''
  const inch = prefs.unit === 'thou' || prefs.unit === 'tenth'
  return `${inch ? 'inches' : 'mm'} unless you type a unit.`
})
</script>
