<template>
  <ul v-if="cautions.length" class="cautions">
    <li v-for="(caution, index) in cautions" :key="caution.id">
      <label v-if="hold">
        <input v-model="ticked" type="checkbox" :value="caution.id" />
        <span>{{ caution.text }}</span><kbd>{{ index + 1 }}</kbd>
      </label>
      <p v-else>{{ caution.text }}</p>
    </li>
  </ul>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'

interface Props {
  /** What to take care of at this step. */
  cautions: Schemas['Panel']['cautions']
  /** Has each to be checked off before the step is behind? */
  hold: boolean
}
defineProps<Props>()
/** The ids that are checked off. */
const ticked = defineModel<string[]>({ required: true })
</script>

<style scoped>
.cautions {
  display: grid;
  gap: 4px;
}
.cautions label {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 12px;
  min-height: 48px;
  padding: 2px 12px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--sheet);
  cursor: pointer;
}
.cautions input {
  width: 24px;
  height: 24px;
  accent-color: var(--plum);
}
.cautions p {
  padding-left: 12px;
  border-left: 4px solid var(--brass);
}
</style>
