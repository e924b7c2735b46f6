<template>
  <el-dialog
    :model-value="true"
    :title="TITLES[kind]"
    width="780px"
    top="6vh"
    append-to-body
    @close="emit('close')"
  >
    <el-form label-position="top" class="fields" @submit.prevent="save">
      <el-form-item
        v-for="field in fieldsFor(kind, form)"
        :key="field.name"
        :label="field.label"
        :error="fault(field.name)"
      >
        <el-radio-group v-if="field.choices" v-model="form[field.name]">
          <el-radio-button v-for="choice in field.choices" :key="choice.id" :value="choice.id">
            {{ choice.word }}
          </el-radio-button>
        </el-radio-group>
        <el-date-picker
          v-else-if="field.date"
          v-model="form[field.name]"
          type="date"
          value-format="YYYY-MM-DD"
          :aria-label="field.label"
        />
        <el-input v-else v-model="form[field.name]" :aria-label="field.label" maxlength="80" />
        <p v-if="field.hint" class="hint">{{ field.hint }}</p>
      </el-form-item>
      <slot />
      <p class="hint">Lengths are in mm unless you type another unit: 0.0005", 4 thou.</p>
      <p v-if="general" class="fault" role="alert">{{ general }}</p>
      <div class="buttons">
        <button class="button main">Keep it</button>
        <button class="button" type="button" @click="emit('close')">Cancel</button>
      </div>
    </el-form>
  </el-dialog>
</template>

<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, ask, complaintOf, Refused, type Problem } from '../../api/client'
import { fieldsFor, gaugeOf, holderOf, machineOf, stockOf, TITLES, type ItemForm, type Kind } from './items'

interface Props {
  /** What it is. */
  kind: Kind
  /** Its id, or a new one. */
  id: string
  /** How the form starts. */
  start: ItemForm
}
const props = defineProps<Props>()
const emit = defineEmits<{ close: [] }>()
const form = reactive<ItemForm>({ ...props.start })
const problem = ref<Problem>()
const general = ref('')

function fault(name: string): string {
  const found = problem.value?.errors.find((e) => e.field.split('.')[0] === name)
  return found ? `${found.detail} ${found.fix}`.trim() : ''
}

async function save(): Promise<void> {
  const params = { path: { item_id: props.id } }
  try {
    if (props.kind === 'machine') {
      await ask(api.PUT('/api/shop/machines/{item_id}', { params, body: machineOf(form) }))
    } else if (props.kind === 'holder') {
      await ask(api.PUT('/api/shop/holders/{item_id}', { params, body: holderOf(form) }))
    } else if (props.kind === 'stock') {
      await ask(api.PUT('/api/shop/stock/{item_id}', { params, body: stockOf(form) }))
    } else {
      await ask(api.PUT('/api/shop/gauges/{item_id}', { params, body: gaugeOf(form) }))
    }
    emit('close')
  } catch (error) {
    problem.value = error instanceof Refused ? error.problem : undefined
    const complaint = complaintOf(error)
    general.value = problem.value?.errors.some((e) => e.field) ? '' : `${complaint.detail} ${complaint.fix}`
  }
}
</script>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 20px;
}
.fields > .hint,
.fields > .fault,
.fields > .buttons {
  grid-column: 1 / -1;
}
.hint {
  width: 100%;
  color: var(--ink-2);
  font-size: 14px;
  line-height: 1.35;
}
.buttons {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  margin-top: 12px;
}
</style>
