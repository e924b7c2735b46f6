<template>
  <el-form-item label="True within" :error="fault('limit.typed') || fault('limit.kind')">
    <div class="limit">
      <el-input
        v-model="form.limit"
        aria-label="True within"
        :placeholder="prefs.unit === 'mm' ? '0.02' : '1'"
      />
      <el-select v-if="kinds.length > 3" v-model="form.kind" aria-label="Kind of limit">
        <el-option v-for="kind in kinds" :key="kind" :value="kind" :label="kindWord(kind)" />
      </el-select>
      <el-radio-group v-else v-model="form.kind" aria-label="Kind of limit">
        <el-radio-button v-for="kind in kinds" :key="kind" :value="kind">
          {{ kind === 'throw' ? 'off the throw' : kindWord(kind) }}
        </el-radio-button>
      </el-radio-group>
    </div>
    <p class="hint">{{ limitHint }}</p>
    <ToldHere :told="told" field="limit.typed" />
  </el-form-item>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { kindWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import ToldHere from './ToldHere.vue'
import type { Form } from './form'

interface Props {
  /** What a limit may be set on. */
  kinds: readonly Form['kind'][]
  told: Schemas['Caveat'][]
  /** What is wrong at a field. */
  fault: (field: string) => string
}
defineProps<Props>()
const form = defineModel<Form>('form', { required: true })
const prefs = usePrefs()
const limitHint = computed(() => {
  if (form.value.kind === 'angle') return 'Degrees of slant.'
  const twice =
    form.value.kind === 'tir' || form.value.kind === 'off_centre' ? ' TIR is twice off center.' : ''
  return `${unitWord(prefs.unit)} unless you type a unit.${twice}`
})
</script>

<style scoped>
.limit {
  display: grid;
  grid-template-columns: minmax(90px, 1fr) auto;
  gap: 8px;
  width: 100%;
}
.limit .el-select {
  width: 230px;
}
</style>
