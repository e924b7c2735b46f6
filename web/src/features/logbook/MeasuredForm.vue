<template>
  <form class="measured" @submit.prevent="keep">
    <h2 class="label">What did the part measure?</h2>
    <div class="row">
      <el-select v-model="what" aria-label="What was measured">
        <el-option :label="asked" value="asked" />
        <el-option label="taper" value="taper" />
        <el-option label="off its size" value="size" />
      </el-select>
      <el-input
        v-model="typed"
        class="value"
        aria-label="It measured"
        :placeholder="unit"
        autocomplete="off"
        inputmode="decimal"
      />
      <label>piece <el-input v-model="piece" class="few" aria-label="Piece" inputmode="numeric" /></label>
      <el-input v-model="by" aria-label="Measured by" placeholder="by which instrument" />
      <button class="button main" :disabled="sending || !typed.trim()">Keep it</button>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </form>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { kindWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** The set-up that it was cut in. */
  id: string
  /** What its limit was set on. */
  kind: Schemas['SetupView']['limit_kind']
  /** The piece that comes next. */
  next: number
}
const props = defineProps<Props>()
const emit = defineEmits<{ kept: [] }>()
const prefs = usePrefs()
const what = ref<Schemas['MeasuredPart']['what']>('asked')
const typed = ref('')
const by = ref('')
const piece = ref(String(props.next))
const fault = ref('')
const sending = ref(false)
/** The same is sent again under the same id; what was typed anew is another. */
let eventId = uuid()
watch([what, typed, by, piece], () => (eventId = uuid()))
const asked = computed(() => kindWord(props.kind))
const unit = computed(() =>
  props.kind === 'angle' && what.value === 'asked' ? 'degrees' : unitWord(prefs.unit),
)

async function keep(): Promise<void> {
  if (!/^\d{1,6}$/.test(piece.value.trim())) {
    fault.value = `“${piece.value}” is no number of a piece. Count from 1.`
    return
  }
  sending.value = true
  fault.value = ''
  const body: Schemas['MeasuredPart'] = {
    type: 'measured_part',
    what: what.value,
    typed: { text: typed.value.trim(), unit: prefs.unit },
    piece: Number(piece.value),
    by: by.value.trim(),
  }
  try {
    await ask(
      api.POST('/api/setups/{setup_id}/events', {
        params: { path: { setup_id: props.id } },
        body: { id: eventId, at: new Date().toISOString(), author: prefs.author, body },
      }),
    )
    typed.value = ''
    piece.value = String(Number(piece.value) + 1)
    emit('kept')
  } catch (error) {
    fault.value = wordsOf(error)
  } finally {
    sending.value = false
  }
}
</script>

<style scoped>
.measured {
  margin-bottom: 18px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.el-select {
  width: 150px;
}
.el-input {
  width: 210px;
}
.value {
  width: 120px;
}
.few {
  width: 70px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
