<template>
  <el-form-item :label="field.label" :error="error">
    <el-radio-group
      v-if="field.choices.length && field.choices.length <= FEW"
      :model-value="modelValue"
      :aria-label="field.label"
      @update:model-value="put"
    >
      <el-radio-button v-for="choice in field.choices" :key="choice.id" :value="choice.id">
        {{ choice.word }}
      </el-radio-button>
    </el-radio-group>
    <el-select
      v-else-if="options"
      :model-value="modelValue"
      :aria-label="field.label"
      :clearable="field.optional"
      no-data-text="None in the Shop yet"
      @update:model-value="put"
    >
      <el-option v-for="one in options" :key="one.id" :label="one.word" :value="one.id" />
    </el-select>
    <el-date-picker
      v-else-if="field.kind === 'date'"
      :model-value="modelValue"
      type="date"
      value-format="YYYY-MM-DD"
      :aria-label="field.label"
      @update:model-value="put"
    />
    <el-input
      v-else
      :model-value="modelValue"
      :aria-label="field.label"
      maxlength="400"
      @update:model-value="put"
    />
    <p v-if="hint" class="hint">{{ hint }}</p>
    <slot />
  </el-form-item>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

/** More choices than this are a list. */
const FEW = 4

interface Props {
  /** What is asked. */
  field: Schemas['FieldSpec']
  /** What was typed or chosen. */
  modelValue: string
  /** What is wrong with it. */
  error: string
  /** What can be chosen from, where the field itself has no choices. */
  from?: { id: string; name: string }[] | undefined
  /** More to say under it. */
  more?: string
}
const props = withDefaults(defineProps<Props>(), { from: undefined, more: '' })
const emit = defineEmits<{ 'update:modelValue': [text: string] }>()

const options = computed(() => {
  if (props.field.choices.length) return props.field.choices
  return props.from?.map((one) => ({ id: one.id, word: one.name }))
})
const hint = computed(() => [props.field.hint, props.more].filter(Boolean).join(' '))
/** A choice that was cleared is no choice. */
function put(value: unknown): void {
  emit('update:modelValue', typeof value === 'string' ? value : '')
}
</script>
