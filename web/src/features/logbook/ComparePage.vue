<template>
  <main class="page">
    <h1>Side by side</h1>
    <div class="two">
      <section v-for="(side, n) in sides" :key="n" :aria-label="n ? 'The other' : 'The one'">
        <CompareSide v-if="side" :id="side" :key="side" @found="found[n] = $event">
          <button v-if="n" class="button" type="button" @click="pick('')">Another</button>
        </CompareSide>
        <template v-else>
          <label class="label" for="other">Compare with</label>
          <el-input
            id="other"
            v-model="words"
            placeholder="Part, holder, person: any word"
            autocomplete="off"
          />
          <ul>
            <li v-for="row in others" :key="row.id">
              <button class="button" type="button" @click="pick(row.id)">
                <b>{{ row.summary.part }}</b>
                <span class="soft">{{ row.summary.holder }} · {{ formatDay(row.summary.changed_at) }}</span>
                <VerdictMark :outcome="row.summary.outcome ?? 'open'" />
              </button>
            </li>
          </ul>
          <p v-if="data && !others.length" class="soft">Nothing found.</p>
        </template>
      </section>
    </div>
  </main>
</template>

<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, type Schemas } from '../../api/client'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatDay } from '../../shared/format'
import { useLatest } from '../../shared/useLatest'
import CompareSide from './CompareSide.vue'

const route = useRoute()
const router = useRouter()
const id = (name: string): string => (typeof route.query[name] === 'string' ? route.query[name] : '')
const sides = computed(() => [id('a'), id('b')])
const found = ref<Record<number, Schemas['SetupView']>>({})
const words = ref('')
const { data, run } = useLatest(() =>
  ask(api.GET('/api/logbook', { params: { query: { words: words.value } } })),
)
const others = computed(() => (data.value?.rows ?? []).filter((row) => row.id !== sides.value[0]))
/** At first those of the same holder: they are what one most likely means. */
watch(
  () => found.value[0],
  (view) => (words.value = view?.holder ?? ''),
)
watchDebounced(words, () => void run(), { debounce: 150 })
void run()

function pick(other: string): void {
  void router.replace({ path: '/compare', query: { a: sides.value[0], ...(other ? { b: other } : {}) } })
}
</script>

<style scoped>
.page {
  padding: 18px 28px;
  overflow: auto;
}
h1 {
  margin-bottom: 12px;
  font-size: var(--type-head);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
}
section + section {
  padding-left: 32px;
  border-left: 1px solid var(--rule);
}
input {
  width: 100%;
  margin: 6px 0 12px;
}
ul {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li .button {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 14px;
  width: 100%;
  text-align: left;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  section + section {
    padding: 18px 0 0;
    border: 0;
    border-top: 1px solid var(--rule);
  }
}
</style>
