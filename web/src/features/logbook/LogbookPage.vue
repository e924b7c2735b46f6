<template>
  <main class="logbook">
    <div class="head">
      <h1>Logbook</h1>
      <el-input
        ref="wordsInput"
        v-model="asked.words"
        class="words"
        clearable
        aria-label="Look for any word of a set-up"
        placeholder="Part, machine, holder, indicator, person, note"
      />
      <el-select v-model="asked.machine" clearable aria-label="Machine" placeholder="Any machine">
        <el-option v-for="name in choices?.machines" :key="name" :label="name" :value="name" />
      </el-select>
      <el-select v-model="asked.holder" clearable filterable aria-label="Holder" placeholder="Any holder">
        <el-option v-for="name in choices?.holders" :key="name" :label="name" :value="name" />
      </el-select>
      <el-select v-model="asked.outcome" clearable aria-label="Verdict" placeholder="Any verdict">
        <el-option v-for="o in OUTCOMES" :key="o.id" :label="o.word" :value="o.id" />
      </el-select>
    </div>
    <div class="more">
      <el-select v-model="asked.procedure" clearable filterable aria-label="Job" placeholder="Any job">
        <el-option v-for="name in choices?.procedures" :key="name" :label="name" :value="name" />
      </el-select>
      <el-select v-model="asked.hand" clearable aria-label="Person" placeholder="Anybody">
        <el-option v-for="name in choices?.hands" :key="name" :label="name" :value="name" />
      </el-select>
      <el-select v-model="asked.standing" clearable aria-label="Standing" placeholder="Standing or off">
        <el-option label="Still standing" value="yes" />
        <el-option label="Taken off" value="no" />
      </el-select>
      <el-date-picker
        v-model="asked.since"
        value-format="YYYY-MM-DD"
        aria-label="From day"
        placeholder="From day"
      />
      <el-date-picker
        v-model="asked.until"
        value-format="YYYY-MM-DD"
        aria-label="To day"
        placeholder="To day"
      />
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <el-table :data="data?.rows ?? []" empty-text="Nothing found." @row-click="go">
      <el-table-column label="Part" min-width="140">
        <template #default="{ row }: { row: Row }">
          <RouterLink class="part" :to="`/logbook/${row.id}`">{{ row.summary.part }}</RouterLink>
          <span class="soft small">{{ row.summary.procedure }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Machine, holder" min-width="136">
        <template #default="{ row }: { row: Row }">
          {{ row.summary.machine }}<br /><span class="soft small"
            >{{ row.summary.holder }} · {{ row.summary.gauge }}</span
          >
        </template>
      </el-table-column>
      <el-table-column label="Verdict" width="156">
        <template #default="{ row }: { row: Row }"
          ><VerdictMark :outcome="row.summary.outcome ?? 'open'"
        /></template>
      </el-table-column>
      <el-table-column label="Last pass" min-width="150">
        <template #default="{ row }: { row: Row }">
          <RichText :parts="row.summary.detail" :resolution-mm="row.summary.resolution_mm" />
        </template>
      </el-table-column>
      <el-table-column label="When" width="126">
        <template #default="{ row }: { row: Row }">
          {{ formatDay(row.summary.changed_at) }}<br />
          <span class="soft small">{{ row.summary.standing ? 'still standing' : 'taken off' }}</span>
        </template>
      </el-table-column>
    </el-table>
    <div class="foot">
      <a class="button" :href="`/api/logbook.xlsx?${taken}`" download>As a workbook</a>
      <a class="button" href="/api/calendar.ics" download>Days to remember</a>
      <button v-if="before.length" class="button" type="button" @click="after = before.pop() ?? ''">
        Newer
      </button>
      <button v-if="data?.more" class="button" type="button" @click="older(data.more)">Older</button>
    </div>
  </main>
</template>

<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, type Schemas } from '../../api/client'
import type { paths } from '../../api/schema'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatDay } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'

type Row = Schemas['ListedOut']
type Query = NonNullable<paths['/api/logbook']['get']['parameters']['query']>
type Outcome = NonNullable<Query['outcome']>
const OUTCOMES: { id: Outcome; word: string }[] = [
  { id: 'holds', word: 'Holds' },
  { id: 'outside', word: 'Outside' },
  { id: 'cannot_tell', word: 'Not proven' },
  { id: 'accepted', word: 'Accepted' },
  { id: 'open', word: 'No proof yet' },
]
const router = useRouter()
const prefs = usePrefs()
const nothing = { words: '', machine: '', holder: '', procedure: '', hand: '', since: '', until: '' }
const asked = reactive({ ...nothing, outcome: '', standing: '' })
/** Where this page begins, and where those before it did: pages are told by their last line. */
const after = ref('')
const before = ref<string[]>([])
const wordsInput = ref<{ focus: () => void }>()

/** What was asked, without what was left open. */
const query = (): Query =>
  Object.fromEntries(Object.entries({ ...asked, after: after.value }).filter(([, value]) => value))
/** The same for a file of all that is found. */
const taken = computed(() => {
  const given = Object.entries(asked).filter(([, value]) => value)
  return new URLSearchParams([...given, ['unit', prefs.unit]]).toString()
})
const { data, fault, run } = useLatest(() => ask(api.GET('/api/logbook', { params: { query: query() } })))
const { data: choices, run: choose } = useLatest(() => ask(api.GET('/api/logbook/choices')))
watchDebounced(
  asked,
  () => {
    after.value = ''
    before.value = []
    void run()
  },
  { debounce: 150 },
)
watch(after, () => void run())
void run()
void choose()
onMounted(() => wordsInput.value?.focus())

function older(more: string): void {
  before.value.push(after.value)
  after.value = more
}

function go(row: Row): void {
  void router.push(`/logbook/${row.id}`)
}
</script>

<style scoped>
.logbook {
  padding: 18px 28px;
  overflow: auto;
}
.head {
  display: grid;
  grid-template-columns: auto minmax(200px, 1fr) repeat(3, 170px);
  gap: 12px;
  align-items: center;
  margin-bottom: 10px;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  margin-bottom: 12px;
}
.more .el-select {
  width: 200px;
}
.more :deep(.el-date-editor) {
  width: 160px;
}
h1 {
  margin-right: 16px;
  font-size: var(--type-head);
}
.logbook :deep(.el-table__row) {
  cursor: pointer;
}
.part {
  display: block;
  font-weight: 650;
}
.foot {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 14px 0;
}
@media (max-width: 900px) {
  .head {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
  .head .words {
    grid-column: 2 / -1;
  }
}
</style>
