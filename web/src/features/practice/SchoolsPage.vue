<template>
  <main class="schools">
    <template v-if="data">
      <header>
        <div>
          <h1>Two ways at the same machine</h1>
          <p class="soft">
            The same hidden four-jaw, the same hand. Step on, and see what each has read, moved and gained by
            then.
          </p>
        </div>
        <div class="ways">
          <button class="button" type="button" :disabled="step <= 0" @click="go(-1)">
            Back <kbd>←</kbd>
          </button>
          <button class="button main" type="button" :disabled="step >= times.length - 1" @click="go(1)">
            On <kbd>→</kbd>
          </button>
          <button class="button" type="button" @click="another">Another machine <kbd>N</kbd></button>
          <RouterLink class="button" to="/practice">To the list</RouterLink>
        </div>
      </header>
      <p class="told" role="status">
        <b class="num">{{ clock(now) }}</b>
        <RichText v-if="over" :parts="data.told" :resolution-mm="res" />
      </p>
      <div class="both">
        <section v-for="one in shown" :key="one.school" :aria-label="one.words">
          <h2>{{ one.words }}</h2>
          <div class="at">
            <CentreMap
              class="map"
              :track="one.steps.map((s, i) => ({ pass_no: i, x_mm: s.x_mm, y_mm: s.y_mm }))"
              :limit-radius-mm="data.limit_mm / 2"
            />
            <dl>
              <div v-for="figure in one.figures" :key="figure.label">
                <dt class="label">{{ figure.label }}</dt>
                <dd class="num">{{ figure.value }}</dd>
              </div>
            </dl>
          </div>
          <ol>
            <li v-for="(s, index) in one.steps" :key="index" :class="{ now: index === one.steps.length - 1 }">
              <RichText :parts="s.what" :resolution-mm="res" />
              <span class="num soft">{{ formatLength(s.off_mm, prefs.unit, res) }}</span>
            </li>
          </ol>
        </section>
      </div>
    </template>
    <p v-else-if="fault" class="fault" role="alert">{{ fault }}</p>
  </main>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { api, ask, complaintOf, type Schemas } from '../../api/client'
import CentreMap from '../../shared/components/CentreMap.vue'
import RichText from '../../shared/components/RichText.vue'
import { formatLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { clock } from './clock'

const prefs = usePrefs()
const data = shallowRef<Schemas['Schools']>()
const fault = ref('')
/** How far it has been stepped, among all moments at which either did something. */
const step = ref(0)

async function another(): Promise<void> {
  try {
    data.value = await ask(api.GET('/api/practice/schools', { params: { query: {} } }))
    step.value = 0
    fault.value = ''
  } catch (error) {
    fault.value = complaintOf(error).detail
  }
}
void another()

const res = computed(() => data.value?.resolution_mm ?? 0.001)
const times = computed(() =>
  [...new Set(data.value?.played.flatMap((one) => one.steps.map((s) => s.seconds)))].sort((a, b) => a - b),
)
const now = computed(() => times.value[step.value] ?? 0)
const over = computed(() => step.value >= times.value.length - 1)
const shown = computed(() =>
  (data.value?.played ?? []).map((one) => {
    const steps = one.steps.filter((s) => s.seconds <= now.value)
    const last = steps.at(-1)
    return {
      ...one,
      steps,
      figures: [
        { label: 'Readings', value: String(last?.readings ?? 0) },
        { label: 'Truly off, TIR', value: last ? formatLength(last.off_mm, prefs.unit, res.value) : '' },
        { label: 'Done at', value: steps.length === one.steps.length && last ? clock(last.seconds) : '' },
      ],
    }
  }),
)
function go(by: number): void {
  step.value = Math.min(Math.max(step.value + by, 0), times.value.length - 1)
}
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (
    (event.target as HTMLElement).matches('input, textarea') ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey
  )
    return
  const keys: Record<string, (() => unknown) | undefined> = {
    arrowright: () => go(1),
    arrowleft: () => go(-1),
    home: () => go(-times.value.length),
    end: () => go(times.value.length),
    n: another,
  }
  const found = keys[event.key.toLowerCase()]
  if (!found) return
  event.preventDefault()
  void found()
})
</script>

<style scoped>
.schools {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  gap: 10px;
  padding: 16px 28px;
  min-height: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 24px;
  align-items: center;
  justify-content: space-between;
}
h1 {
  font-size: var(--type-head);
}
h2 {
  font-size: var(--type-lead);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.told {
  display: flex;
  gap: 20px;
  align-items: baseline;
  min-height: 40px;
  font-size: var(--type-lead);
}
.told .num {
  font-size: var(--type-head);
}
.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 28px;
  min-height: 0;
}
section {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  gap: 8px;
  min-height: 0;
}
.at {
  display: flex;
  gap: 24px;
  align-items: center;
}
.map {
  flex: none;
  width: 150px;
  height: 150px;
}
dl {
  display: grid;
  gap: 6px;
  margin: 0;
}
dd {
  margin: 0;
  min-height: 26px;
  font-size: var(--type-lead);
  font-weight: 600;
}
ol {
  margin: 0;
  padding-left: 24px;
  overflow: auto;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
li .num {
  float: right;
}
li.now {
  font-weight: 650;
}
</style>
