<template>
  <div class="passes" tabindex="0" role="region" aria-label="Passes">
    <table>
      <thead>
        <tr>
          <th scope="col">Pass</th>
          <th v-for="head in heads" :key="head" scope="col">{{ head }}</th>
          <th scope="col">Asked, got</th>
          <th scope="col"><span class="visually-hidden">Verdict</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="pass in shown" :key="pass.number" :class="{ last: pass === shown[0] }">
          <td>{{ pass.number }}{{ KINDS[pass.purpose] }}</td>
          <td class="num">{{ figure(pass.main?.mm ?? null) }}</td>
          <td class="num">{{ figure(pass.beside[0]?.mm ?? null) }}</td>
          <td><RichText :parts="pass.toward" :resolution-mm="res" /></td>
          <td class="num">
            <template v-if="pass.asked_mm !== null">
              {{ figure(pass.asked_mm) }}
              <svg width="16" height="10" viewBox="0 0 16 10" aria-label="got">
                <path d="M0 5h11M8 1l5 4-5 4" />
              </svg>
              {{ pass.got_mm === null ? '…' : figure(pass.got_mm) }}
            </template>
          </td>
          <td class="mark">
            <VerdictMark v-if="pass.outcome" :outcome="pass.outcome" :size="15" :word="word(pass)" />
          </td>
        </tr>
        <tr v-if="!shown.length">
          <td colspan="6" class="soft">Nothing read yet.</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from './RichText.vue'
import VerdictMark from './VerdictMark.vue'
import { bareLength } from '../format'
import { usePrefs } from '../prefs'

interface Props {
  /** All passes, oldest first. */
  passes: readonly Schemas['Row'][]
  /** What the columns of figures are called: size, second figure, toward. */
  heads: readonly string[]
  /** The finest step worth showing, mm. */
  res: number
}
const KINDS = { correct: '', prove: ', proof', quick: ', quick look' }
const props = defineProps<Props>()
const prefs = usePrefs()
/** The newest on top: it is the one that is looked for. */
const shown = computed(() => [...props.passes].reverse())
const figure = (mm: number | null): string => (mm === null ? '–' : bareLength(mm, prefs.unit, props.res))
/** Only a proof has a verdict; before that it is within the limit, or not yet. */
function word(pass: Schemas['Row']): string | undefined {
  if (pass.purpose === 'prove') return undefined
  return { holds: 'within', outside: 'not yet', cannot_tell: 'not proven' }[pass.outcome ?? 'outside']
}
</script>

<style scoped>
.passes {
  min-height: 0;
  overflow: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: var(--type-least);
}
th,
td {
  padding: 4px 6px;
  border-bottom: 1px solid var(--rule);
  text-align: right;
  white-space: nowrap;
}
th {
  white-space: normal; /* words give way, figures do not */
  position: sticky;
  top: 0;
  background: var(--sheet);
  color: var(--ink-2);
  font-weight: 600;
}
th:first-child,
td:first-child {
  text-align: left;
}
.last {
  font-weight: 700;
}
.mark {
  font-size: var(--type-least);
}
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.6;
}
@media (max-width: 1100px) and (orientation: landscape) {
  th,
  td {
    padding: 4px;
  }
  td:first-child,
  td:nth-child(4) {
    white-space: normal;
  }
}
</style>
