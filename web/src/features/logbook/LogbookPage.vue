<template>
  <main class="logbook">
    <div class="head">
      <h1>Logbook</h1>
      <el-input
        v-model="words"
        class="words"
        clearable
        aria-label="Look for a part, machine, chuck or indicator"
        placeholder="Part, machine, chuck or indicator"
      />
      <el-select v-model="machine" clearable aria-label="Machine" placeholder="Any machine">
        <el-option v-for="name in data?.machines" :key="name" :label="name" :value="name" />
      </el-select>
      <el-select v-model="holder" clearable aria-label="Holder" placeholder="Any holder">
        <el-option v-for="name in data?.holders" :key="name" :label="name" :value="name" />
      </el-select>
      <el-select v-model="outcome" clearable aria-label="Verdict" placeholder="Any verdict">
        <el-option v-for="o in OUTCOMES" :key="o.id" :label="o.word" :value="o.id" />
      </el-select>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <el-table :data="data?.rows ?? []" empty-text="Nothing found." @row-click="go">
      <el-table-column label="Part" min-width="230">
        <template #default="{ row }: { row: Row }">
          <RouterLink class="part" :to="`/logbook/${row.id}`">{{ row.summary.part }}</RouterLink>
          <span class="soft small">{{ row.summary.procedure }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Machine, holder" min-width="190">
        <template #default="{ row }: { row: Row }">
          {{ row.summary.machine }}<br /><span class="soft small"
            >{{ row.summary.holder }} · {{ row.summary.gauge }}</span
          >
        </template>
      </el-table-column>
      <el-table-column label="Verdict" width="150">
        <template #default="{ row }: { row: Row }"
          ><VerdictMark :outcome="row.summary.outcome ?? 'open'"
        /></template>
      </el-table-column>
      <el-table-column label="Last pass" min-width="210">
        <template #default="{ row }: { row: Row }">
          <RichText :parts="row.summary.detail" :resolution-mm="row.summary.resolution_mm" />
        </template>
      </el-table-column>
      <el-table-column label="When" width="170">
        <template #default="{ row }: { row: Row }">
          {{ formatDay(row.summary.changed_at) }}<br />
          <span class="soft small">{{ row.summary.standing ? 'still standing' : 'taken off' }}</span>
        </template>
      </el-table-column>
    </el-table>
    <div class="foot">
      <span class="soft">{{ data?.total ?? 0 }} set-up{{ data?.total === 1 ? '' : 's' }}</span>
      <template v-if="data && data.pages > 1">
        <button class="button" type="button" :disabled="page <= 1" @click="page -= 1">Newer</button>
        <span>Page {{ page }} of {{ data.pages }}</span>
        <button class="button" type="button" :disabled="page >= data.pages" @click="page += 1">Older</button>
      </template>
    </div>
  </main>
</template>

<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, type Schemas } from '../../api/client'
import type { paths } from '../../api/schema'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatDay } from '../../shared/format'
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
const words = ref('')
const machine = ref('')
const holder = ref('')
const outcome = ref<Outcome>('')
const page = ref(1)
const { data, fault, run } = useLatest(() =>
  ask(
    api.GET('/api/logbook', {
      params: {
        query: {
          words: words.value,
          machine: machine.value || '',
          holder: holder.value || '',
          outcome: outcome.value || '',
          page: page.value,
        },
      },
    }),
  ),
)
watch([words, machine, holder, outcome], () => (page.value = 1))
watchDebounced([words, machine, holder, outcome], () => void run(), { debounce: 150 })
watch(page, () => void run())
void run()

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
  margin-bottom: 12px;
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
</style>
