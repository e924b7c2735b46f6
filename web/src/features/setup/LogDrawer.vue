<template>
  <el-drawer v-model="open" title="Log of this set-up" size="520px" append-to-body>
    <form class="note" @submit.prevent="keep">
      <label class="label" for="note">A note for the log</label>
      <input id="note" v-model.trim="note" class="line" maxlength="500" />
      <button class="button" :disabled="!note">Keep it</button>
    </form>
    <button v-if="standing" class="button off" type="button" @click="takeOff">
      End it here: the part is taken off
    </button>
    <LogLines :lines="lines" :res="res" />
  </el-drawer>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, ask, type Schemas } from '../../api/client'
import LogLines from '../../shared/components/LogLines.vue'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** The set-up. */
  id: string
  /** The latest lines, oldest first. */
  log: readonly Schemas['LogLine'][]
  /** How many lines there are in all. */
  total: number
  /** The finest step worth showing, mm. */
  res: number
  /** Does the part still stand on the machine? */
  standing: boolean
}
const props = defineProps<Props>()
const emit = defineEmits<{ note: [text: string]; off: [] }>()
const open = defineModel<boolean>({ required: true })
const note = ref('')
const { data: record, run } = useLatest(() =>
  ask(api.GET('/api/setups/{setup_id}/record', { params: { path: { setup_id: props.id } } })),
)
watch(open, (now) => {
  if (now && props.total > props.log.length) void run()
})
/** All lines, the newest first: the older ones from the record, once it has come. */
const lines = computed(() => {
  const first = props.log[0]?.seq ?? 0
  const older = (record.value?.log ?? []).filter((line) => line.seq < first)
  return [...older, ...props.log].reverse()
})

function takeOff(): void {
  emit('off')
  open.value = false
}
function keep(): void {
  emit('note', note.value)
  note.value = ''
}
</script>

<style scoped>
.note {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  margin-bottom: 16px;
}
.note label {
  grid-column: 1 / -1;
}
.off {
  width: 100%;
  margin-bottom: 16px;
}
</style>
