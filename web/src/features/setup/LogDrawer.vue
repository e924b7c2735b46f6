<template>
  <el-drawer v-model="open" title="Log of this set-up" size="520px" append-to-body>
    <form class="note" @submit.prevent="keep">
      <label class="label" for="note">A note for the log</label>
      <el-input id="note" v-model.trim="note" maxlength="500" />
      <button class="button" :disabled="!note">Keep it</button>
    </form>
    <button v-if="standing" class="button off" type="button" @click="takeOff">
      End it here: the part is taken off
    </button>
    <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <LogLines :lines="lines" :res="res" />
  </el-drawer>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, ask } from '../../api/client'
import LogLines from '../../shared/components/LogLines.vue'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** The set-up. */
  id: string
  /** The last event that it shows. */
  seq: number
  /** The finest step worth showing, mm. */
  res: number
  /** Does the part still stand on the machine? */
  standing: boolean
}
const props = defineProps<Props>()
const emit = defineEmits<{ note: [text: string]; off: [] }>()
const open = defineModel<boolean>({ required: true })
const note = ref('')
const {
  data: record,
  fault,
  run,
} = useLatest(() =>
  ask(api.GET('/api/setups/{setup_id}/record', { params: { path: { setup_id: props.id } } })),
)
watch([open, () => props.seq], ([now]) => {
  if (now) void run()
})
/** The newest first. */
const lines = computed(() => [...(record.value?.log ?? [])].reverse())

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
