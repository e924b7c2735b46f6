<template>
  <section class="ways" aria-labelledby="ways">
    <h2 id="ways" class="label">How to hold it, best first</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="!whole" class="soft">
      Say how large it is and how true it has to be. What this shop has for it comes here, with what each
      takes of the limit.
    </p>
    <p v-else-if="candidates && !candidates.length" class="soft">
      Nothing in the Shop holds such a part. <RouterLink to="/shop">Put it in first.</RouterLink>
    </p>
    <ol v-else class="list" role="listbox" aria-label="Ways to hold it">
      <li
        v-for="(one, index) in candidates"
        :key="`${one.holder_id} ${one.procedure}`"
        role="option"
        :aria-selected="index === chosen"
        :class="{ on: index === chosen, out: one.rating === 'out' }"
        tabindex="0"
        @click="chosen = index"
        @focus="chosen = index"
      >
        <VerdictMark :outcome="MARKS[one.rating].outcome" :word="MARKS[one.rating].word" :size="24" />
        <div>
          <h3>{{ one.holder }}</h3>
          <p class="small soft">
            {{ one.title }}<template v-if="one.machine"> · {{ one.machine }}</template>
          </p>
          <RichText
            v-for="(reason, n) in one.reasons"
            :key="n"
            tag="p"
            class="small"
            :parts="reason"
            :resolution-mm="FINE_MM"
          />
        </div>
        <p v-if="one.rating !== 'out'" class="expect small">
          <RichText v-if="one.expect.length" :parts="one.expect" :resolution-mm="FINE_MM" />
          <template v-else>No forecast of passes.</template>
        </p>
      </li>
    </ol>
  </section>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import type { Candidate } from './useJob'

interface Props {
  /** Ways to hold it, best first; undefined before anything is known of it. */
  candidates: readonly Candidate[] | undefined
  /** Are size and limit told? */
  whole: boolean
  /** Why nothing can be proposed. */
  fault: string
}
const props = defineProps<Props>()
const chosen = defineModel<number>({ required: true })
/** Figures are written to this, mm. */
const FINE_MM = 0.0005
const MARKS = {
  good: { outcome: 'holds', word: 'Works' },
  unsure: { outcome: 'cannot_tell', word: 'Tight' },
  out: { outcome: 'outside', word: 'Ruled out' },
} as const

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  if (!step || !(event.target as HTMLElement).matches('[role=option]')) return
  event.preventDefault()
  const last = (props.candidates?.length ?? 1) - 1
  const next = Math.min(Math.max(chosen.value + step, 0), last)
  document.querySelectorAll<HTMLElement>('[role=option]')[next]?.focus()
})
</script>

<style scoped>
.ways {
  min-height: 0;
  padding: 16px 20px;
  background: var(--sheet);
  overflow-y: auto;
}
.list {
  display: grid;
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
.list li {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) minmax(120px, 190px);
  gap: 0 10px;
  align-items: start;
  padding: 12px 8px;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
.list li.on {
  background: var(--plum-wash);
}
h3 {
  margin: 0;
  font-size: var(--type-lead);
}
.list p {
  margin: 0;
}
.out h3 {
  color: var(--ink-2);
}
.expect {
  text-align: right;
}
@media (max-width: 1200px) {
  .list li {
    grid-template-columns: 104px minmax(0, 1fr);
  }
  .expect {
    grid-column: 2;
    text-align: left;
  }
}
</style>
