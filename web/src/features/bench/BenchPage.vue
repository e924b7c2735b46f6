<template>
  <main class="bench">
    <section class="list" aria-labelledby="standing">
      <h1 id="standing" class="label">Standing now</h1>
      <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
      <template v-for="stand in data?.stands" :key="stand.machine.id">
        <article v-for="item in stand.standing" :key="item.id" class="row">
          <VerdictMark v-if="item.summary.outcome" class="ring" :outcome="item.summary.outcome" :size="56" />
          <CentreMap
            v-else-if="item.summary.track.length"
            :track="item.summary.track"
            :limit-radius-mm="item.summary.limit_radius_mm"
            width="84"
            height="84"
          />
          <svg v-else width="84" height="84" viewBox="-50 -50 100 100" aria-hidden="true">
            <circle r="30" class="idle" />
          </svg>
          <div>
            <h2>{{ stand.machine.name }}</h2>
            <p class="soft small">{{ item.summary.part }}<br />{{ item.summary.holder }}</p>
          </div>
          <div>
            <RichText
              tag="p"
              class="waits"
              :parts="item.summary.waits"
              :resolution-mm="item.summary.resolution_mm"
            />
            <p class="soft small">
              <RichText :parts="item.summary.detail" :resolution-mm="item.summary.resolution_mm" /> ·
              {{ formatAgo(item.summary.opened_at) }}
            </p>
          </div>
          <RouterLink class="button go" :class="{ main: item.summary.step }" :to="`/set-up/${item.id}`">
            {{ item.summary.step ? 'Go on' : 'Look' }}
          </RouterLink>
        </article>
        <article v-if="!stand.standing.length" class="row">
          <svg width="84" height="84" viewBox="-50 -50 100 100" aria-hidden="true">
            <circle r="30" class="idle" />
          </svg>
          <div>
            <h2>{{ stand.machine.name }}</h2>
            <p class="soft small">Nothing standing</p>
          </div>
          <p class="soft small">
            <template v-if="stand.last">
              Last: {{ stand.last.summary.part }}, {{ formatAgo(stand.last.summary.changed_at) }} ago
            </template>
          </p>
          <RouterLink class="button go" :to="{ path: '/plan', query: { machine: stand.machine.id } }">
            Set up here
          </RouterLink>
        </article>
      </template>
      <p v-if="data && !data.stands.length" class="first">
        No machine yet.
        <RouterLink to="/shop">Put your machines, chucks and gauges into the Shop</RouterLink>, then start a
        set-up.
      </p>
    </section>
    <aside>
      <section aria-labelledby="start">
        <h2 id="start" class="label">Start a set-up</h2>
        <div class="chips" role="group" aria-label="Machine">
          <button
            v-for="m in machines"
            :key="m.id"
            type="button"
            class="chip"
            :aria-pressed="m.id === machine"
            @click="machine = m.id"
          >
            {{ m.name }}
          </button>
        </div>
        <h3 class="label">Held in</h3>
        <div class="chips" role="group" aria-label="Holder">
          <button
            v-for="h in holders"
            :key="h.id"
            type="button"
            class="chip"
            :aria-pressed="h.id === holder"
            @click="holder = h.id"
          >
            {{ h.name }}
          </button>
        </div>
        <button class="button main plan" type="button" :disabled="!machine || !holder" @click="plan">
          Plan it <kbd>P</kbd>
        </button>
      </section>
      <section v-if="data?.due.length" aria-labelledby="due">
        <h2 id="due" class="label">Wants a look</h2>
        <p v-for="item in data.due" :key="item.name" class="due">
          <span>{{ item.name }}</span><span class="soft">{{ item.what }}</span>
        </p>
      </section>
    </aside>
  </main>
</template>

<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask } from '../../api/client'
import CentreMap from '../../shared/components/CentreMap.vue'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatAgo } from '../../shared/format'
import { useLatest } from '../../shared/useLatest'
import { useStream } from '../../shared/useStream'

const router = useRouter()
const { data, fault, run } = useLatest(() => ask(api.GET('/api/bench')))
const shop = useLatest(() => ask(api.GET('/api/shop')))
const procedures = useLatest(() => ask(api.GET('/api/procedures')))
useStream(
  () => '/api/stream',
  () => void run(),
)
void run()
void shop.run()
void procedures.run()

const machine = ref('')
const holder = ref('')
const machines = computed(() => (data.value?.stands ?? []).map((s) => s.machine))
watch(machines, (found) => (machine.value ||= found[0]?.id ?? ''))
/** What goes onto the machine that is chosen: whatever something is done in, on its kind. */
const holders = computed(() => {
  const kind = machines.value.find((m) => m.id === machine.value)?.kind
  const here = (procedures.data.value?.procedures ?? []).filter((p) => kind && p.machine_kinds.includes(kind))
  const kinds = new Set(here.flatMap((p) => p.holder_kinds))
  return (shop.data.value?.holders ?? []).filter((h) => kinds.has(h.kind))
})
watch(holders, (found) => {
  if (found.some((h) => h.id === holder.value)) return
  holder.value = (found.find((h) => h.kind === 'four_jaw_independent') ?? found[0])?.id ?? ''
})

function plan(): void {
  void router.push({ path: '/plan', query: { machine: machine.value, holder: holder.value } })
}
function onKey(event: KeyboardEvent): void {
  const typing = (event.target as HTMLElement).matches('input, textarea, select')
  if (
    !typing &&
    !event.ctrlKey &&
    !event.metaKey &&
    event.key.toLowerCase() === 'p' &&
    machine.value &&
    holder.value
  )
    plan()
}
onMounted(() => document.addEventListener('keydown', onKey))
onBeforeUnmount(() => document.removeEventListener('keydown', onKey))
</script>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  min-height: 0;
}
.list {
  padding: 22px 28px;
  overflow: auto;
}
.list > h1 {
  margin-bottom: 8px;
}
.row {
  display: grid;
  grid-template-columns: 84px 190px 1fr 170px;
  gap: 18px;
  align-items: center;
  padding: 14px 0;
  border-top: 1px solid var(--rule);
}
.row h2 {
  font-size: 18px;
  font-weight: 680;
}
.row:last-of-type {
  border-bottom: 1px solid var(--rule);
}
.ring {
  justify-content: center;
}
.ring :deep(span) {
  display: none;
}
.waits {
  font-size: 17px;
}
.go {
  width: 100%;
}
.idle {
  fill: none;
  stroke: var(--edge);
  stroke-width: 3;
  stroke-dasharray: 7 7;
}
.first {
  padding: 24px 0;
  font-size: 18px;
}
aside {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  gap: 24px;
  padding: 22px 24px;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  overflow: auto;
}
aside h3 {
  margin-top: 18px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
.chip {
  min-height: 48px;
  padding: 0 14px;
  border: 1.5px solid var(--edge);
  border-radius: 8px;
  background: var(--ground);
  color: var(--ink);
  font-size: 15.5px;
  font-weight: 600;
  cursor: pointer;
}
.chip[aria-pressed='true'] {
  border-color: var(--plum);
  background: var(--plum-wash);
  color: var(--plum);
}
.plan {
  width: 100%;
  margin-top: 18px;
}
.due {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 9px 0;
  border-top: 1px solid var(--rule);
  font-size: 15.5px;
}
@media (max-width: 1000px) {
  .bench {
    grid-template-columns: minmax(0, 1fr) 280px;
  }
  .row {
    grid-template-columns: 84px 1fr 120px;
  }
  .row > :nth-child(3) {
    grid-column: 2 / -1;
    grid-row: 2;
  }
}
</style>
