<template>
  <div class="figure" :class="{ follows: figure.follows, wrong: fault }">
    <label :for="`sum-${figure.id}`">{{ figure.label }}</label>
    <el-select
      v-if="figure.choices.length"
      :id="`sum-${figure.id}`"
      class="value"
      :model-value="text"
      @update:model-value="emit('typed', $event)"
    >
      <el-option v-for="choice in figure.choices" :key="choice.id" :value="choice.id" :label="choice.word" />
    </el-select>
    <span v-else-if="figure.kind === 'stock'" class="usual soft small">a usual set; the Shop has none</span>
    <el-input
      v-else-if="figure.kind === 'rows'"
      :id="`sum-${figure.id}`"
      class="num rows"
      type="textarea"
      :rows="6"
      spellcheck="false"
      :model-value="text"
      :aria-describedby="`about-${figure.id}`"
      :aria-invalid="Boolean(fault)"
      @update:model-value="emit('typed', $event)"
    />
    <span v-else class="value">
      <input
        :id="`sum-${figure.id}`"
        class="num"
        inputmode="text"
        autocomplete="off"
        :value="text"
        :aria-describedby="`about-${figure.id}`"
        :aria-invalid="Boolean(fault)"
        @blur="emit('left')"
        @focus="($event.target as HTMLInputElement).select()"
        @input="emit('typed', ($event.target as HTMLInputElement).value)"
      />
    </span>
    <p v-if="fault" :id="`about-${figure.id}`" class="about small">
      <span class="fault" role="alert">{{ fault }}</span>
    </p>
    <p v-else-if="about" :id="`about-${figure.id}`" class="about small">{{ about }}</p>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

interface Props {
  /** The figure as the server says it. */
  figure: Schemas['FigureOut']
  /** What stands in its field. */
  text: string
  /** What is wrong with it. */
  fault: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ typed: [text: string]; left: [] }>()
const about = computed(() => {
  const { kind, unit, beside, hint } = props.figure
  if (kind === 'rows') return ''
  const said = unit !== '°' ? unit : beside ? '' : 'degrees'
  return [said, beside, hint].filter(Boolean).join(' · ')
})
</script>

<style scoped>
.figure {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  grid-template-rows: auto auto;
  gap: 0 12px;
  align-content: center;
  padding: 3px 10px;
  border-bottom: 1px solid var(--rule);
}
.figure > :is(.value, .usual) {
  grid-row: 1 / 3;
  grid-column: 2;
  align-self: center;
}
.figure.follows {
  border-radius: 8px;
  background: var(--brass-wash);
}
.figure:has(.el-select) {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.9fr); /* its words are longer than a figure */
}
.figure :deep(.el-select__wrapper) {
  padding: 4px 8px;
}
.figure:has(.rows) {
  grid-template-columns: 1fr;
  padding-bottom: 8px;
}
label {
  align-self: end;
  color: var(--ink-2);
  font-size: var(--type-body);
  font-weight: 600;
  line-height: 1.2;
}
label:not(:has(~ .about)) {
  grid-row: 1 / 3;
  align-self: center;
}
.follows :is(label, .about) {
  color: var(--brass-ink);
}
input {
  width: 100%;
  min-height: 48px;
  padding: 0 4px;
  border: 0;
  border-bottom: 2px solid var(--plum-2);
  background: transparent;
  color: var(--ink);
  font-size: var(--type-head);
  font-weight: 650;
  text-align: right;
}
.follows input {
  border-bottom-color: transparent;
  color: var(--brass-ink);
}
.wrong input {
  border-color: var(--out);
}
.wrong :deep(.el-textarea__inner) {
  box-shadow: 0 0 0 1px var(--out) inset;
}
.about {
  margin: 0;
  color: var(--ink-2);
  line-height: 1.25;
}
.wrong .about {
  grid-column: 1 / -1;
  grid-row: 3;
}
</style>
