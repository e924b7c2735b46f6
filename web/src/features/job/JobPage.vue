<template>
  <main class="job">
    <JobForm v-model="job" :asks="asks.data.value" :at="at" @start="start" @clear="clear" />
    <JobWays v-model="chosen" :candidates="candidates" :whole="whole" :fault="fault" />
    <JobBudget v-if="way" :way="way" :limit-mm="way.left_mm + way.likely_mm" @start="start" />
    <aside v-else class="empty"></aside>
    <JobOrder class="below" :order="order" :way="way" @add="add" @begin="begin" />
  </main>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask } from '../../api/client'
import { useLatest } from '../../shared/useLatest'
import JobBudget from './JobBudget.vue'
import JobForm from './JobForm.vue'
import JobOrder from './JobOrder.vue'
import JobWays from './JobWays.vue'
import { FINISH, useJob, type Candidate } from './useJob'
import { useOrder, type OperationView } from './useOrder'

const router = useRouter()
const asks = useLatest(() => ask(api.GET('/api/jobs/asks')))
void asks.run()
const { job, candidates, fault, at, whole, clear } = useJob()
const chosen = ref(0)
watch(candidates, () => (chosen.value = 0))
const way = computed(() => candidates.value?.[chosen.value])

const order = useOrder()

/** What the start page is filled with: nothing is typed twice. */
function asked(one: Candidate): Record<string, string> {
  return {
    procedure: one.procedure,
    machine: one.machine_id,
    holder: one.holder_id,
    gauge: one.gauge_id,
    part: job.value.name,
    diameter: job.value.across,
    limit: job.value.limit,
    kind: job.value.kind,
    finish: FINISH[job.value.surface],
  }
}

function start(): void {
  const one = way.value
  if (!one || one.rating === 'out') return
  void router.push({ path: '/plan', query: asked(one) })
}

function add(): void {
  const one = way.value
  if (one)
    void order.add(job.value.name || 'Part', { title: one.title, holder: one.holder, plan: asked(one) })
}
const begin = ({ operation }: OperationView): void =>
  void router.push({
    path: '/plan',
    query: { ...operation.plan, job: order.id.value, operation: operation.id },
  })
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) start()
})
</script>

<style scoped>
.job {
  display: grid;
  grid-template-columns: minmax(280px, 330px) minmax(0, 1fr) minmax(280px, 330px);
  grid-template-rows: minmax(0, 1fr) minmax(74px, auto);
  min-height: 0;
}
.below {
  grid-column: 1 / -1;
  max-height: 34vh;
}
.empty {
  border-left: 1px solid var(--rule);
}
@media (max-width: 1000px) {
  .job {
    grid-template-rows: none;
    grid-template-columns: minmax(260px, 2fr) minmax(0, 3fr);
    grid-auto-rows: max-content;
    overflow-y: auto;
  }
  .job > :nth-child(2) {
    height: 0; /* as high as the form beside it, whatever it has to say */
    min-height: 100%;
  }
  .job > :nth-child(n + 3) {
    grid-column: 1 / -1;
  }
  .below {
    max-height: none;
  }
}
</style>
