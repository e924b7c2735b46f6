<template>
  <main class="bench">
    <section class="list" aria-labelledby="standing">
      <AskName v-if="!prefs.author && !prefs.asked" />
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
          <LimitSteps
            v-else-if="item.summary.of_limit.length"
            :of-limit="item.summary.of_limit"
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
        <RouterLink to="/shop">Put your machines, chucks and indicators into the Shop</RouterLink>, then start
        a set-up.
      </p>
    </section>
    <aside class="side">
      <StartSetup :machines="machines" />
      <section v-if="data?.due.length" aria-labelledby="due">
        <h2 id="due" class="label">Wants a look</h2>
        <p v-for="(item, n) in data.due" :key="n" class="due">
          <RouterLink v-if="item.setup_id" :to="`/logbook/${item.setup_id}`">{{ item.name }}</RouterLink>
          <span v-else>{{ item.name }}</span><span class="soft">{{ item.what }}</span>
        </p>
      </section>
    </aside>
  </main>
</template>

<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { api, ask } from '../../api/client'
import CentreMap from '../../shared/components/CentreMap.vue'
import LimitSteps from '../../shared/components/LimitSteps.vue'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatAgo } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'
import { useStream } from '../../shared/useStream'
import StartSetup from './StartSetup.vue'

const prefs = usePrefs()
/** Who has said a name needs none of it. */
const AskName = defineAsyncComponent(() => import('./AskName.vue'))
const { data, fault, run } = useLatest(() => ask(api.GET('/api/bench')))
/** Is it on the screen as it is now? */
function isShown(id: string, seq: number): boolean {
  const here = (data.value?.stands ?? []).flatMap((stand) => stand.standing)
  return here.some((one) => one.id === id && one.seq >= seq)
}
const first = run()
useStream((news) => void first.then(() => news?.every(({ id, seq }) => isShown(id, seq)) || run()))

const machines = computed(() => (data.value?.stands ?? []).map((st) => st.machine))
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
  font-size: var(--type-lead);
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
  font-size: var(--type-body);
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
  font-size: var(--type-lead);
}
.due {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 9px 0;
  border-top: 1px solid var(--rule);
  font-size: var(--type-body);
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
