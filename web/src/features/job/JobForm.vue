<template>
  <form class="told" aria-label="The part and what the drawing wants" @submit.prevent="emit('start')">
    <h1>Plan a job</h1>
    <JobField v-model="job.name" label="Part" :fault="at('name')" hint="What it is called" />
    <fieldset class="row">
      <legend class="visually-hidden">Shape</legend>
      <label v-for="shape in SHAPES" :key="shape.id" :class="{ on: job.shape === shape.id }">
        <input v-model="job.shape" type="radio" name="shape" :value="shape.id" @change="kindFits" />{{
          shape.word
        }}
      </label>
    </fieldset>
    <div class="two">
      <JobField
        v-model="job.across"
        :label="job.shape === 'round' ? 'Diameter' : 'Width'"
        :fault="at('across')"
        :hint="sizeHint"
      />
      <JobField v-model="job.long" label="Length" :fault="at('long')" :hint="sizeHint" />
    </div>
    <div class="two">
      <JobField v-model="job.limit" label="True within" :fault="at('limit')" :hint="unitWord(prefs.unit)" />
      <label class="field"
        ><span>of</span>
        <select v-model="job.kind" class="line" aria-label="Kind of limit">
          <option v-for="kind in kinds" :key="kind" :value="kind">{{ kindWord(kind) }}</option>
        </select>
      </label>
    </div>
    <div class="two worded">
      <label class="field"
        ><span><b>Surface</b></span>
        <select v-model="job.surface" class="line">
          <option v-for="one in asks?.surfaces" :key="one.id" :value="one.id">
            {{ one.word }}
          </option>
        </select>
      </label>
      <JobField v-model="job.kg" label="Mass" :fault="at('kg')" hint="kg" />
    </div>
    <div class="two">
      <JobField v-model="job.many" label="How many" :fault="at('many')" />
      <label class="check"><input v-model="job.hardened" type="checkbox" /> hardened</label>
    </div>
    <button class="button" type="button" @click="emit('clear')">Another part</button>
  </form>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { kindWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import JobField from './JobField.vue'
import type { Job } from './useJob'

interface Props {
  /** What may be said of a part. */
  asks: Schemas['JobAsks'] | undefined
  /** What is wrong at a field. */
  at: (field: string) => string
}
const props = defineProps<Props>()
const emit = defineEmits<{ start: []; clear: [] }>()
const job = defineModel<Job>({ required: true })
const prefs = usePrefs()
const SHAPES = [
  { id: 'round', word: 'round' },
  { id: 'flat', word: 'flat or square' },
] as const
const kinds = computed(() => props.asks?.kinds[job.value.shape] ?? [job.value.kind])
const sizeHint = computed(() => (prefs.unit === 'thou' || prefs.unit === 'tenth' ? 'in' : 'mm'))

/** Another shape has other limits. */
function kindFits(): void {
  const first = kinds.value[0]
  if (first && !kinds.value.includes(job.value.kind)) job.value.kind = first
}
</script>

<style scoped>
.told {
  display: grid;
  gap: 12px;
  align-content: start;
  padding: 16px 20px;
  border-right: 1px solid var(--rule);
  overflow-y: auto;
}
h1 {
  margin: 0;
  font-size: var(--type-head);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.two.worded {
  grid-template-columns: 1.7fr 1fr; /* its words are longer than a figure */
}
.row {
  display: flex;
  margin: 0;
  padding: 0;
  border: 1.5px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  overflow: hidden;
}
.row label {
  display: grid;
  flex: 1 1 0;
  place-items: center;
  min-height: 48px;
  cursor: pointer;
}
.row label.on {
  background: var(--plum-wash);
  color: var(--plum);
  font-weight: 700;
}
.row input {
  position: absolute;
  opacity: 0;
}
.row label:has(:focus-visible) {
  outline: 3px solid var(--brass);
  outline-offset: -3px;
}
.field {
  display: grid;
  gap: 4px;
  align-content: start;
}
.field span {
  color: var(--ink-2);
  font-size: var(--type-body);
  font-weight: 600;
}
select {
  padding: 0 8px;
  font-size: var(--type-body);
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 48px;
  margin-top: 24px;
}
.check input {
  width: 24px;
  height: 24px;
}
</style>
