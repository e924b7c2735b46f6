<template>
  <section class="follow" aria-labelledby="follow">
    <h2 id="follow" class="label">To be looked at again</h2>
    <ul v-if="followUps.length">
      <li v-for="one in followUps" :key="one.id">
        <span
          >{{ one.what || 'All of it' }} <span class="soft">{{ whenOf(one) }}</span></span
        >
        <button class="button" type="button" :disabled="sending" @click="done(one.id ?? '')">Done</button>
      </li>
    </ul>
    <form class="row" @submit.prevent="set">
      <el-input
        v-model="what"
        class="what"
        aria-label="What to look at"
        placeholder="what"
        autocomplete="off"
        maxlength="200"
      />
      <el-select v-model="when" aria-label="When to look at it">
        <el-option v-for="one in WHENS" :key="one.id" :label="one.word" :value="one.id" />
      </el-select>
      <el-date-picker v-if="when === 'on'" v-model="on" value-format="YYYY-MM-DD" aria-label="On which day" />
      <el-input
        v-if="when === 'piece'"
        v-model="piece"
        class="few"
        aria-label="At which piece"
        inputmode="numeric"
      />
      <button class="button" :disabled="sending">Remember it</button>
    </form>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </section>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { formatDate } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

type FollowUp = Schemas['FollowUp']
interface Props {
  /** The set-up. */
  id: string
  /** What is open of it. */
  followUps: FollowUp[]
}
const props = defineProps<Props>()
const emit = defineEmits<{ kept: [] }>()
const WHENS: { id: FollowUp['when']; word: string }[] = [
  { id: 'first_cut', word: 'after the first cut' },
  { id: 'warm_up', word: 'after it has warmed up' },
  { id: 'next_mounting', word: 'at the next mounting' },
  { id: 'piece', word: 'at piece' },
  { id: 'on', word: 'on a day' },
]
const prefs = usePrefs()
const what = ref('')
const when = ref<FollowUp['when']>('first_cut')
const on = ref('')
const piece = ref('')
const fault = ref('')
const sending = ref(false)

function whenOf(one: FollowUp): string {
  if (one.on) return formatDate(one.on)
  if (one.piece) return `at piece ${one.piece}`
  return WHENS.find((w) => w.id === one.when)?.word ?? ''
}

async function send(body: Schemas['EventIn']['body']): Promise<boolean> {
  sending.value = true
  fault.value = ''
  try {
    await ask(
      api.POST('/api/setups/{setup_id}/events', {
        params: { path: { setup_id: props.id } },
        body: { id: uuid(), at: new Date().toISOString(), author: prefs.author, body },
      }),
    )
    emit('kept')
    return true
  } catch (error) {
    fault.value = wordsOf(error)
    return false
  } finally {
    sending.value = false
  }
}

async function set(): Promise<void> {
  const number = when.value === 'piece' ? Number(piece.value) : NaN
  const follow: FollowUp = {
    what: what.value.trim(),
    when: when.value,
    ...(when.value === 'on' && on.value ? { on: on.value } : {}),
    ...(Number.isInteger(number) && number > 0 ? { piece: number } : {}),
  }
  if (await send({ type: 'follow_up_set', follow })) what.value = ''
}
const done = (follow_id: string): Promise<boolean> => send({ type: 'follow_up_done', follow_id })
</script>

<style scoped>
.follow {
  margin-bottom: 18px;
}
ul {
  max-width: 820px;
  margin: 0 0 8px;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  padding: 6px 0;
  border-top: 1px solid var(--rule);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.what {
  width: 280px;
}
.few {
  width: 80px;
}
.el-select,
:deep(.el-date-editor) {
  width: 210px;
}
</style>
