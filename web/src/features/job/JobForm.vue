<template>
  <el-form
    class="told"
    label-position="top"
    aria-label="The part and what the drawing wants"
    @submit.prevent="emit('start')"
  >
    <h1>Plan a job</h1>
    <JobField v-model="job.name" label="Part" :fault="at('name')" hint="What it is called" />
    <el-radio-group v-model="job.shape" class="shapes" aria-label="Shape" @change="kindFits">
      <el-radio-button v-for="shape in SHAPES" :key="shape.id" :value="shape.id">{{
        shape.word
      }}</el-radio-button>
    </el-radio-group>
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
      <el-form-item label="of">
        <el-select v-model="job.kind" aria-label="Kind of limit">
          <el-option v-for="kind in kinds" :key="kind" :value="kind" :label="kindWord(kind)" />
        </el-select>
      </el-form-item>
    </div>
    <div class="two worded">
      <el-form-item label="Surface">
        <el-select v-model="job.surface" aria-label="Surface">
          <el-option v-for="one in asks?.surfaces" :key="one.id" :value="one.id" :label="one.word" />
        </el-select>
      </el-form-item>
      <JobField v-model="job.mass" label="Mass" :fault="at('mass')" :hint="sizeHint === 'in' ? 'lb' : 'kg'" />
    </div>
    <div class="two">
      <JobField v-model="job.many" label="How many" :fault="at('many')" />
      <el-checkbox v-model="job.hardened" class="check" label="hardened" />
    </div>
    <button class="button" type="button" @click="emit('clear')">Another part</button>
  </el-form>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { kindWord, sizeWord, unitWord } from '../../shared/format'
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
const sizeHint = computed(() => sizeWord(prefs.unit))

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
.told :deep(.el-form-item) {
  margin-bottom: 0;
}
.shapes {
  display: flex;
}
.shapes :deep(.el-radio-button),
.shapes :deep(.el-radio-button__inner) {
  flex: 1;
  justify-content: center;
  width: 100%;
}
.check {
  margin-top: 28px;
}
</style>
