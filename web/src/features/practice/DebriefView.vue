<template>
  <section class="after" aria-label="How it went">
    <div class="top">
      <VerdictMark
        :outcome="told.good ? 'holds' : 'outside'"
        :word="told.good ? 'Well done' : 'Not yet'"
        :size="52"
      />
      <div>
        <RichText tag="h1" :parts="told.headline" :resolution-mm="res" data-part="headline" />
        <RichText tag="p" :parts="told.why" :resolution-mm="res" />
        <RichText tag="p" :parts="told.truth" :resolution-mm="res" />
      </div>
    </div>
    <dl class="figures">
      <div v-for="one in figures" :key="one.label">
        <dt class="label">{{ one.label }}</dt>
        <dd class="num">{{ one.value }}</dd>
      </div>
    </dl>
    <p class="habit"><b>The habit to keep.</b> {{ told.habit }}</p>
    <table v-if="told.steps.length" class="steps">
      <thead>
        <tr>
          <th>After pass</th>
          <th>What you did</th>
          <th class="n">It was off</th>
          <th class="n">Then</th>
          <th></th>
          <th>What the advice would have said</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(step, index) in told.steps" :key="index">
          <td class="num">{{ step.after_pass }}</td>
          <td>{{ step.what }}</td>
          <td class="num n">{{ bareLength(step.before_mm, prefs.unit, res) }}</td>
          <td class="num n">{{ bareLength(step.after_mm, prefs.unit, res) }}</td>
          <td :class="{ bad: step.judged === 'wrong way' || step.judged === 'went past' }">
            {{ step.judged }}
          </td>
          <td><RichText :parts="step.advice" :resolution-mm="res" /></td>
        </tr>
      </tbody>
    </table>
    <div class="ways">
      <button class="button main" type="button" @click="emit('again')">Once more <kbd>Enter</kbd></button>
      <RouterLink v-if="past" class="button" :to="`/replay/${past.setup_id}`">To its replay</RouterLink>
      <RouterLink class="button" to="/practice">To the list</RouterLink>
    </div>
  </section>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { bareLength, formatLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { clock } from './clock'

interface Props {
  /** What is told of it. */
  told: Schemas['Debrief']
  /** The logged set-up that it went on from. */
  past: Schemas['PastStep'] | null
  /** The finest step worth showing, mm. */
  res: number
}
const props = defineProps<Props>()
const emit = defineEmits<{ again: [] }>()
const prefs = usePrefs()
const figures = computed(() => {
  const told = props.told
  const best = told.best_passes === null ? '' : ` (the advice: ${told.best_passes})`
  const long = (mm: number): string => formatLength(mm, prefs.unit, props.res)
  return [
    { label: 'Time', value: clock(told.seconds) },
    { label: 'Passes', value: `${told.passes}${best}` },
    { label: 'Wrong way', value: String(told.wrong_ways) },
    { label: 'Went past', value: String(told.past) },
    { label: 'Hit hard when near', value: String(told.hard_near) },
    { label: 'Asked', value: String(told.asks) },
    { label: 'In the end', value: `${long(told.end_mm)} of ${long(told.limit_mm)}` },
    ...(told.floor_mm > 0 ? [{ label: 'The machine repeats to', value: long(told.floor_mm) }] : []),
  ]
})
</script>

<style scoped>
.after {
  display: grid;
  gap: 16px;
  align-content: start;
  padding: 20px 28px;
  overflow: auto;
}
.top {
  display: flex;
  gap: 16px;
}
.top p {
  margin-top: 4px;
}
h1 {
  font-size: var(--type-head);
}
.figures {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 10px 20px;
  margin: 0;
}
dd {
  margin: 0;
  font-size: var(--type-lead);
  font-weight: 600;
}
.habit {
  padding: 12px 16px;
  border-left: 4px solid var(--brass);
  background: var(--brass-wash);
}
.steps {
  border-collapse: collapse;
}
.steps th,
.steps td {
  padding: 6px 10px;
  border-bottom: 1px solid var(--rule);
  text-align: left;
  vertical-align: top;
}
.steps th {
  color: var(--ink-2);
  font-size: var(--type-least);
}
.steps .n {
  text-align: right;
}
.bad {
  color: var(--out);
  font-weight: 650;
}
.ways {
  display: flex;
  gap: 12px;
}
</style>
