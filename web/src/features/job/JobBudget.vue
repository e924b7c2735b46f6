<template>
  <aside class="budget" aria-label="Where the limit goes">
    <template v-if="way.shares.length">
      <h2 class="label">Where the limit goes</h2>
      <p class="left" :class="way.rating">
        <span class="num">{{ bareLength(Math.abs(way.left_mm), prefs.unit, FINE_MM) }}</span>
        {{ unitWord(prefs.unit) }} {{ way.left_mm >= 0 ? 'left for the set-up' : 'too much' }}
      </p>
      <div class="stack">
        <svg viewBox="0 0 120 200" aria-hidden="true">
          <rect
            v-for="bar in bars"
            :key="bar.word"
            x="12"
            width="40"
            :y="bar.top"
            :height="bar.high"
            class="part"
          />
          <rect x="68" width="40" :y="200 - likely" :height="likely" class="rule" :class="way.rating" />
          <line x1="4" x2="116" :y1="200 - limit" :y2="200 - limit" class="limit" />
        </svg>
        <table>
          <tbody>
            <tr>
              <th scope="row">limit</th>
              <td class="num">{{ bareLength(limitMm, prefs.unit, FINE_MM) }}</td>
            </tr>
            <tr v-for="share in way.shares" :key="share.word">
              <th scope="row">{{ share.word }}</th>
              <td class="num">{{ bareLength(share.mm, prefs.unit, FINE_MM) }}</td>
            </tr>
            <tr class="sum">
              <th scope="row">as a rule (right)</th>
              <td class="num">{{ bareLength(way.likely_mm, prefs.unit, FINE_MM) }}</td>
            </tr>
            <tr>
              <th scope="row">at the worst (left)</th>
              <td class="num">{{ bareLength(way.worst_mm, prefs.unit, FINE_MM) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
    <template v-if="way.first.length">
      <h2 class="label">First</h2>
      <RichText v-for="(one, n) in way.first" :key="n" tag="p" :parts="one" :resolution-mm="FINE_MM" />
    </template>
    <template v-if="way.fetch.length">
      <h2 class="label">To fetch</h2>
      <p>{{ way.fetch.join(' · ') }}</p>
    </template>
    <template v-if="way.buy.length">
      <h2 class="label">To buy, or to borrow</h2>
      <ul class="buy">
        <li v-for="(one, n) in way.buy" :key="n"><RichText :parts="one" :resolution-mm="FINE_MM" /></li>
      </ul>
    </template>
    <template v-if="way.away.length">
      <h2 class="label">To put away at the end</h2>
      <p>{{ way.away.join(' · ') }}</p>
    </template>
    <button class="button main start" type="button" :disabled="way.rating === 'out'" @click="emit('start')">
      Start it <kbd>Ctrl Enter</kbd>
    </button>
  </aside>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import RichText from '../../shared/components/RichText.vue'
import { bareLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import type { Candidate } from './useJob'

interface Props {
  /** The way that is looked at. */
  way: Candidate
  /** What the drawing allows, mm. */
  limitMm: number
}
const props = defineProps<Props>()
const emit = defineEmits<{ start: [] }>()
const prefs = usePrefs()
/** Figures are written to this, mm. */
const FINE_MM = 0.0001
/** How high a millimeter is drawn. */
const scale = computed(() => 190 / Math.max(props.way.worst_mm, props.limitMm, 1e-9))
const limit = computed(() => props.limitMm * scale.value)
const likely = computed(() => props.way.likely_mm * scale.value)
const bars = computed(() => {
  let below = 0
  return props.way.shares.map((share) => {
    const high = share.mm * scale.value
    below += high
    return { word: share.word, high, top: 200 - below }
  })
})
</script>

<style scoped>
.budget {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  padding: 16px 20px;
  border-left: 1px solid var(--rule);
  overflow-y: auto;
}
.left {
  margin: 0;
  font-size: var(--type-lead);
}
.left .num {
  font-size: var(--type-head);
  font-weight: 700;
}
.left.good {
  color: var(--holds);
}
.left.unsure {
  color: var(--unsure);
}
.left.out {
  color: var(--out);
}
.stack {
  display: grid;
  flex: none;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 12px;
  align-items: end;
}
.part {
  fill: var(--brass-wash);
  stroke: var(--brass);
}
.rule {
  stroke-width: 1.5;
}
.rule.good {
  fill: var(--holds-wash);
  stroke: var(--holds);
}
.rule.unsure {
  fill: var(--unsure-wash);
  stroke: var(--unsure);
}
.rule.out {
  fill: var(--out-wash);
  stroke: var(--out);
}
.limit {
  stroke: var(--plum);
  stroke-width: 2;
  stroke-dasharray: 6 4;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding: 3px 0;
  font-weight: 400;
  text-align: left;
}
td {
  text-align: right;
}
.sum :is(th, td) {
  border-top: 1px solid var(--edge);
}
p {
  margin: 0;
}
.buy {
  margin: 0;
  padding-left: 18px;
}
.start {
  position: sticky;
  bottom: 0;
  flex: none;
  margin-top: auto;
  /* What scrolls behind it is not read around it. */
  box-shadow:
    0 0 0 12px var(--ground),
    0 32px 0 12px var(--ground);
}
</style>
