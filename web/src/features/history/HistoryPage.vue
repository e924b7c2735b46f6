<template>
  <main v-if="data" class="history" :class="{ alone: data.subject !== 'holder' }">
    <section class="left">
      <h1>{{ data.name }}</h1>
      <p class="soft"><RichText :parts="data.about" :resolution-mm="0.001" /></p>
      <ul v-if="tiles.length" class="tiles">
        <li v-for="tile in tiles" :key="tile.id">
          <span
            ><b class="num">{{ tile.value }}</b> {{ tile.unit }}</span
          >
          <span class="soft">{{ tile.label }}</span>
        </li>
      </ul>
      <p v-for="one in alarms" :key="one.id" class="alarm" role="status">
        <RichText :parts="one.told" :resolution-mm="RES_MM" />
      </p>
      <PartDots :score="data.score" />
      <TrendChart
        v-for="one in charts"
        :key="one.id"
        :label="`${one.label}, each set-up${one.measure === 'mm' ? `, ${unitWord(prefs.unit)}` : ''}`"
        :points="pointsOf(one)"
        :usual="usualOf(one)"
        :say="sayers[one.measure]"
        :say-at="(at) => formatDate(new Date(at).toISOString())"
      />
      <p v-if="few.length" class="soft">
        Too few yet to draw:
        {{ few.map((one) => `${one.label.toLowerCase()} (${one.points.length})`).join(', ') }}.
      </p>
    </section>
    <LessonSide
      v-if="data.subject === 'holder'"
      :id="id"
      :history="data"
      :since="shiftSince"
      @changed="run()"
    />
  </main>
  <main v-else-if="fault" class="history">
    <section class="left">
      <h1>{{ fault.detail }}</h1>
      <p>{{ fault.fix }}</p>
      <RouterLink class="button" to="/logbook">To the Logbook</RouterLink>
    </section>
  </main>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask, type Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import TrendChart, { type TrendPoint } from '../../shared/components/TrendChart.vue'
import { bareLength, formatCount, formatDate, formatPercent, inUnit, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'
import LessonSide from './LessonSide.vue'
import PartDots from './PartDots.vue'

type Series = Schemas['Series']
const route = useRoute()
const id = String(route.params.id)
const subject = String(route.params.subject) as Schemas['History']['subject']
const prefs = usePrefs()
/** What trends are told to: finer than a dial shows, for they are means of many. */
const RES_MM = 0.00025
const LEAST = 4
const { data, fault, run } = useLatest(() =>
  ask(api.GET('/api/history/{subject}/{item_id}', { params: { path: { subject, item_id: id } } })),
)
void run()

const sayers = computed<Record<Series['measure'], (value: number) => string>>(() => ({
  mm: (value) => String(Number(value.toPrecision(3))),
  percent: formatPercent,
  count: formatCount,
  minutes: (value) => formatCount(Math.round(value)),
}))
const charts = computed(() => (data.value?.series ?? []).filter((one) => one.points.length >= LEAST))
const few = computed(() => (data.value?.series ?? []).filter((one) => one.points.length < LEAST))
const alarms = computed(() => (data.value?.series ?? []).filter((one) => one.told.length))
const shiftSince = computed(() => data.value?.series.find((one) => one.id === 'shift')?.since ?? '')
/** What it is like now: the median of what was last. */
const tiles = computed(() =>
  charts.value.slice(0, 5).map((one) => {
    const since = one.since ?? ''
    const last = one.points.filter((p) => p.at >= since).map((p) => p.value)
    const middle = [...last].sort((a, b) => a - b)[Math.floor(last.length / 2)] ?? 0
    const length = one.measure === 'mm'
    const value = length ? bareLength(middle, prefs.unit, RES_MM) : sayers.value[one.measure](middle)
    return { id: one.id, value, unit: length ? unitWord(prefs.unit) : '', label: one.label }
  }),
)

/** Lengths are drawn in the unit chosen, so that the figures at the axis are round. */
const drawn = (one: Series, value: number): number =>
  one.measure === 'mm' ? inUnit(value, prefs.unit) : value

function usualOf(one: Series): { low: number; middle: number; high: number } | undefined {
  const { low, middle, high } = one
  if (low == null || middle == null || high == null) return undefined
  return { low: drawn(one, low), middle: drawn(one, middle), high: drawn(one, high) }
}

function pointsOf(one: Series): TrendPoint[] {
  return one.points.map((p) => ({
    at: new Date(p.at).getTime(),
    value: drawn(one, p.value),
    odd: p.odd,
    title: `${p.part}, ${formatDate(p.at)}`,
  }))
}
</script>

<style scoped>
.history {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  min-height: 0;
}
.alone {
  grid-template-columns: minmax(0, 1fr);
}
.left {
  padding: 18px 28px;
  overflow: auto;
}
h1 {
  font-size: var(--type-head);
}
.tiles {
  display: flex;
  flex-wrap: wrap;
  margin: 14px 0;
  padding: 0;
  border-block: 1px solid var(--rule);
  list-style: none;
}
.tiles li {
  display: grid;
  flex: 1;
  gap: 2px;
  min-width: 150px;
  padding: 10px 14px;
}
.tiles li + li {
  border-left: 1px solid var(--rule);
}
.tiles b {
  font-size: var(--type-head);
}
.alarm {
  margin: 0 0 14px;
  padding: 12px 16px;
  border-left: 5px solid var(--out);
  background: var(--out-wash);
  font-size: var(--type-lead);
}
@media (max-width: 900px) {
  .history {
    grid-template-columns: minmax(0, 1fr);
    overflow: auto;
  }
  .left {
    overflow: visible;
  }
}
</style>
