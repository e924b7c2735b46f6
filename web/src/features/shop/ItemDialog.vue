<template>
  <el-dialog
    :model-value="true"
    :title="shelf.one"
    width="780px"
    top="6vh"
    append-to-body
    @close="emit('close')"
  >
    <el-form label-position="top" class="fields" @submit.prevent="save">
      <AskedField v-model="name" :field="NAME" :error="fault('name')" />
      <AskedField v-model="kind" :field="kinds" :error="fault('kind')" />
      <AskedField
        v-for="field in fields"
        :key="field.name"
        :field="field"
        :model-value="typed[field.name] ?? field.start"
        :from="field.kind === 'gauge' ? gauges : undefined"
        :error="fault(`typed.${field.name}`)"
        @update:model-value="typed[field.name] = $event"
      />
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
import { computed, reactive, ref } from 'vue'
import { api, ask, complaintOf, Refused, type Problem, type Schemas } from '../../api/client'
import AskedField from '../../shared/components/AskedField.vue'

interface Props {
  /** What is asked on its shelf. */
  shelf: Schemas['ShelfForm']
  /** Its id, or a new one. */
  id: string
  /** The thing as it is, if it is there already. */
  item: Schemas['ItemOut'] | undefined
  /** The Shop’s indicators, where one is asked for. */
  gauges: Schemas['ItemOut'][]
}
const props = defineProps<Props>()
const emit = defineEmits<{ close: [] }>()
/** A question that is asked of everything. */
const asked = (more: Partial<Schemas['FieldSpec']>): Schemas['FieldSpec'] => ({
  name: '',
  label: '',
  kind: 'choice',
  hint: '',
  start: '',
  choices: [],
  optional: false,
  least: 0,
  most: 0,
  ...more,
})
const NAME = asked({ name: 'name', label: 'Name', kind: 'words' })
const name = ref(props.item?.name ?? '')
const kind = ref(props.item?.kind ?? props.shelf.kinds[0]?.id ?? '')
/** What was typed stays when the kind is changed and changed back. */
const typed = reactive<Record<string, string>>({ ...props.item?.typed })
const kinds = computed(() => asked({ name: 'kind', label: 'Kind', choices: props.shelf.kinds }))
const fields = computed(() => props.shelf.kinds.find((k) => k.id === kind.value)?.fields ?? [])
const problem = ref<Problem>()
const general = ref('')

function fault(field: string): string {
  const found = problem.value?.errors.find((e) => e.field === field)
  return found ? `${found.detail} ${found.fix}`.trim() : ''
}

async function save(): Promise<void> {
  const path = { shelf: props.shelf.shelf, item_id: props.id }
  const own = Object.fromEntries(fields.value.map((f) => [f.name, typed[f.name] ?? f.start]))
  const body = { kind: kind.value, name: name.value, typed: own }
  try {
    await ask(api.PUT('/api/shop/{shelf}/{item_id}', { params: { path }, body }))
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
.buttons {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  margin-top: 12px;
}
</style>
