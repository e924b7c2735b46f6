<template>
  <el-dialog
    v-model="open"
    title="Readings from a file"
    width="640px"
    append-to-body
    @opened="field?.focus()"
  >
    <template v-if="found">
      <p>Pass {{ found.pass_no }}, as they will stand. Is every number in its place?</p>
      <table class="preview">
        <thead>
          <tr>
            <th>Place</th>
            <th class="num">Reading, {{ unitWord(prefs.unit) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="reading in found.readings" :key="`${reading.station_id}${reading.closing}`">
            <td>{{ reading.label }}<template v-if="reading.closing"> again</template></td>
            <td class="num">{{ told(reading) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-else>
      <p>
        A line for each place, <b>1, 0.004</b>; or only the values in the order of reading; or a grid, the
        back row first. The first spot again comes last.
      </p>
      <input
        type="file"
        accept=".csv,.txt,text/csv,text/plain"
        aria-label="Choose a file"
        class="file"
        @change="load"
      />
      <label class="label" for="sheet">Or paste it here</label>
      <el-input
        id="sheet"
        ref="field"
        v-model="text"
        type="textarea"
        :rows="8"
        class="num"
        spellcheck="false"
        @input="asks = []"
      />
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-if="asks.length" class="asks" role="group" aria-label="Which is it?">
        <b>Which is it?</b>
        <button
          v-for="choice in asks"
          :key="choice.reads"
          class="button"
          type="button"
          @click="show(choice.reads)"
        >
          {{ choice.label }}
        </button>
      </div>
    </template>
    <template #footer>
      <button class="button" type="button" @click="found ? (found = null) : (open = false)">
        {{ found ? 'Back' : 'Cancel' }}
      </button>
      <button v-if="found" ref="taker" class="button main" type="button" @click="take">
        Take {{ found.readings.length === 1 ? 'this reading' : `these ${found.readings.length} readings` }}
      </button>
      <button v-else class="button main" type="button" :disabled="!text.trim()" @click="show('')">
        Show the readings
      </button>
    </template>
  </el-dialog>
</template>

<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import type { Body } from '../../api/outbox'
import { bareLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** The set-up that they are for. */
  id: string
  /** The finest step worth showing, mm. */
  res: number
}
const props = defineProps<Props>()
const emit = defineEmits<{ send: [bodies: Body[]] }>()
const open = defineModel<boolean>({ required: true })
const prefs = usePrefs()
const text = ref('')
const fault = ref('')
const asks = ref<Schemas['SheetChoice'][]>([])
/** What the file says, and in which unit it was read. */
const found = ref<(Schemas['SheetOut'] & { unit: typeof prefs.unit }) | null>(null)
const field = ref<{ focus: () => void }>()
const taker = ref<HTMLButtonElement>()

async function load(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  if (file.size > 40000) {
    fault.value = 'That file is too long for one pass of readings.'
    return
  }
  text.value = await file.text()
  asks.value = []
  fault.value = ''
}

/** What stands where, before anything is taken; a file that may mean two things is asked about. */
async function show(reads: Schemas['SheetIn']['reads']): Promise<void> {
  fault.value = ''
  const unit = prefs.unit
  try {
    const path = { setup_id: props.id }
    const answer = await ask(
      api.POST('/api/setups/{setup_id}/sheet', {
        params: { path },
        body: { text: text.value, unit, reads },
      }),
    )
    asks.value = [...answer.asks]
    if (answer.asks.length) return
    found.value = { ...answer, unit }
    await nextTick(() => taker.value?.focus())
  } catch (error) {
    fault.value = wordsOf(error)
  }
}

function told(reading: Schemas['SheetReading']): string {
  return reading.needle_mm === null
    ? reading.text
    : bareLength(reading.needle_mm, prefs.unit, props.res, true) || '0'
}

function take(): void {
  const all = found.value
  if (!all) return
  emit(
    'send',
    all.readings.map((r) => ({
      type: 'reading_taken',
      pass_no: all.pass_no,
      station_id: r.station_id,
      closing: r.closing,
      typed: { text: r.text, unit: all.unit },
    })),
  )
  found.value = null
  text.value = ''
  open.value = false
}
</script>

<style scoped>
.file {
  display: block;
  min-height: 48px;
  margin: 8px 0;
}
.preview {
  width: 100%;
  max-height: 50vh;
  border-collapse: collapse;
}
.preview :is(td, th) {
  padding: 6px 8px;
  border-bottom: 1px solid var(--rule);
  text-align: left;
}
.preview .num {
  text-align: right;
}
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>
