<template>
  <el-dialog
    v-model="open"
    title="Readings from a file"
    width="640px"
    append-to-body
    @opened="field?.focus()"
  >
    <p>
      A line for each place, <b>1, 0.004</b>; or only the values in the order of reading; or a grid, the back
      row first. The first spot again comes last.
    </p>
    <input
      type="file"
      accept=".csv,.txt,text/csv,text/plain"
      aria-label="Choose a file"
      class="file"
      @change="load"
    />
    <label class="label" for="sheet">Or paste it here</label>
    <textarea id="sheet" ref="field" v-model="text" rows="8" class="num" spellcheck="false" />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template #footer>
      <button class="button" type="button" @click="open = false">Cancel</button>
      <button class="button main" type="button" :disabled="!text.trim()" @click="take">
        Take the readings
      </button>
    </template>
  </el-dialog>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { api, ask, complaintOf } from '../../api/client'
import type { Body } from '../../api/outbox'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** The set-up that they are for. */
  id: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ send: [bodies: Body[]] }>()
const open = defineModel<boolean>({ required: true })
const prefs = usePrefs()
const text = ref('')
const fault = ref('')
const field = ref<HTMLTextAreaElement>()

async function load(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  if (file.size > 40000) {
    fault.value = 'That file is too long for one pass of readings.'
    return
  }
  text.value = await file.text()
  fault.value = ''
}

async function take(): Promise<void> {
  try {
    const path = { setup_id: props.id }
    const answer = await ask(
      api.POST('/api/setups/{setup_id}/sheet', { params: { path }, body: { text: text.value } }),
    )
    emit(
      'send',
      answer.readings.map((r) => ({
        type: 'reading_taken',
        pass_no: answer.pass_no,
        station_id: r.station_id,
        closing: r.closing,
        typed: { text: r.text, unit: prefs.unit },
      })),
    )
    text.value = ''
    fault.value = ''
    open.value = false
  } catch (error) {
    const complaint = complaintOf(error)
    fault.value = `${complaint.detail} ${complaint.fix}`
  }
}
</script>

<style scoped>
.file {
  display: block;
  min-height: 48px;
  margin: 8px 0;
}
textarea {
  width: 100%;
  padding: 8px;
  border: 1.5px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--type-body);
}
</style>
