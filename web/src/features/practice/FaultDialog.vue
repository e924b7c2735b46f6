<template>
  <el-dialog v-model="open" title="What is the matter?" width="600">
    <ul class="faults">
      <li v-for="(one, index) in faults" :key="one.id">
        <button class="button" type="button" @click="emit('name', one.id)">
          <kbd>{{ LETTERS[index] }}</kbd> {{ one.words }}
        </button>
      </li>
    </ul>
  </el-dialog>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { LETTERS } from './usePracticeKeys'

interface Props {
  /** What may be wrong, each by its name. */
  faults: readonly Schemas['FaultChoice'][]
}
defineProps<Props>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ name: [id: string] }>()
</script>

<style scoped>
.faults {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.button {
  width: 100%;
  justify-content: start;
  text-align: left;
}
</style>
