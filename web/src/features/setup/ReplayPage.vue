<template>
  <main v-if="data" class="replay" :data-seq="seq">
    <PathLine :view="data.view" />
    <div class="middle">
      <section class="picture" aria-label="Picture">
        <SceneView v-if="panel" :scene="panel.scene" :resolution-mm="data.view.resolution_mm" />
      </section>
      <div class="then" inert>
        <MovePanel v-if="panel" :panel="panel" :res="data.view.resolution_mm" :ways="1" :busy="true" />
      </div>
    </div>
    <section class="steps" aria-label="Step by step">
      <p class="visually-hidden" role="status">{{ said }}</p>
      <div class="play">
        <button class="button" type="button" :disabled="seq <= 1" @click="go(seq - 1)">
          Back <kbd>←</kbd>
        </button>
        <button class="button main" type="button" @click="playing = !playing">
          {{ playing ? 'Stop' : 'Play' }} <kbd>Space</kbd>
        </button>
        <button class="button" type="button" :disabled="seq >= data.total" @click="go(seq + 1)">
          On <kbd>→</kbd>
        </button>
        <label class="slider">
          <span class="visually-hidden">Step</span>
          <input
            v-model.number="wanted"
            type="range"
            min="1"
            :max="data.total"
            :aria-valuetext="`Step ${seq} of ${data.total}`"
          />
        </label>
        <el-radio-group v-model="speed" aria-label="How fast">
          <el-radio-button v-for="one in SPEEDS" :key="one" :value="one">{{ one }}×</el-radio-button>
        </el-radio-group>
        <button v-if="data.what_if" class="button" type="button" :disabled="busy" @click="whatIf">
          What if? <kbd>W</kbd>
        </button>
        <RouterLink class="button" :to="`/logbook/${id}`">Its page</RouterLink>
      </div>
      <p v-if="refused" class="fault" role="alert">{{ refused.detail }} {{ refused.fix }}</p>
      <p class="done">
        <span class="num soft">{{ seq }} of {{ data.total }} · {{ clock }}</span>
        <RichText :parts="data.done.what" :resolution-mm="data.view.resolution_mm" />
      </p>
      <p v-if="data.next" class="soft">
        Then: <RichText :parts="data.next.what" :resolution-mm="data.view.resolution_mm" />
      </p>
      <PassTable :passes="data.view.passes" :heads="data.view.heads" :res="data.view.resolution_mm" />
    </section>
  </main>
  <main v-else class="empty">
    <template v-if="fault">
      <h1>{{ fault.detail }}</h1>
      <p>{{ fault.fix }}</p>
      <RouterLink class="button" to="/logbook">To the Logbook</RouterLink>
    </template>
  </main>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask, complaintOf, type Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import PassTable from '../../shared/components/PassTable.vue'
import { plain } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import SceneView from '../../shared/scenes/SceneView.vue'
import { useBegin } from '../../shared/useBegin'
import MovePanel from './MovePanel.vue'
import PathLine from './PathLine.vue'

type Then = Schemas['ReplayOut']
/** How many times faster than it was; a pause is never longer or shorter than these, ms. */
const SPEEDS = [10, 30, 100]
const LONGEST_MS = 4000
const SHORTEST_MS = 350

const id = String(useRoute().params.id)
const begin = useBegin()
const prefs = usePrefs()
const data = shallowRef<Then>()
const fault = ref<{ detail: string; fix: string }>()
const seq = ref(1)
const wanted = ref(1)
const speed = ref(30)
const playing = ref(false)
const kept = new Map<number, Promise<Then>>()

const panel = computed(() => data.value?.view.panels[0])
const said = computed(() =>
  panel.value && data.value ? plain(panel.value.headline, prefs.unit, data.value.view.resolution_mm) : '',
)
/** Minutes and seconds since it was opened. */
const clock = computed(() => {
  if (!data.value) return ''
  const s = Math.round((Date.parse(data.value.at) - Date.parse(data.value.opened_at)) / 1000)
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
})

/** A step, fetched once. */
function step(at: number): Promise<Then> {
  const found = kept.get(at)
  if (found) return found
  const asked = ask(
    api.GET('/api/setups/{setup_id}/at/{seq}', { params: { path: { setup_id: id, seq: at } } }),
  )
  kept.set(at, asked)
  asked.catch(() => kept.delete(at))
  return asked
}

async function show(at: number): Promise<void> {
  try {
    const found = await step(at)
    if (wanted.value !== at) return // somebody has gone on
    data.value = found
    seq.value = at
    fault.value = undefined
    if (at < found.total) void step(at + 1).catch(() => undefined)
  } catch (error) {
    fault.value = complaintOf(error)
    playing.value = false
  }
}

function go(at: number): void {
  wanted.value = Math.min(Math.max(at, 1), data.value?.total ?? 1)
}
watch(wanted, (at) => void show(at), { immediate: true })

const busy = ref(false)
const refused = ref<{ detail: string; fix: string }>()
watch(seq, () => (refused.value = undefined))
/** From this step on by one's own hands, at a machine that answers as this one did. */
async function whatIf(): Promise<void> {
  if (busy.value || !data.value?.what_if) return
  playing.value = false
  busy.value = true
  try {
    await begin({ drill: 'what_if', past: { setup_id: id, seq: seq.value }, advice: 'asked' })
  } catch (error) {
    refused.value = complaintOf(error)
  } finally {
    busy.value = false
  }
}

let timer: ReturnType<typeof setTimeout> | undefined
watch([playing, seq, speed, data], () => {
  clearTimeout(timer)
  const now = data.value
  if (!playing.value || !now) return
  if (!now.next_at) {
    playing.value = false
    return
  }
  const gap = (Date.parse(now.next_at) - Date.parse(now.at)) / speed.value
  timer = setTimeout(() => go(seq.value + 1), Math.min(Math.max(gap, SHORTEST_MS), LONGEST_MS))
})
onBeforeUnmount(() => clearTimeout(timer))

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key !== ' ' && target.matches('input[type=radio]')) return // arrows choose the speed there
  if (event.key === ' ' && target.matches('button, a')) return
  const to = {
    ArrowLeft: seq.value - 1,
    ArrowRight: seq.value + 1,
    Home: 1,
    End: data.value?.total ?? 1,
  }[event.key]
  if (event.key.toLowerCase() === 'w') void whatIf()
  else if (event.key === ' ') playing.value = !playing.value
  else if (to === undefined) return
  else go(to)
  event.preventDefault()
})
</script>

<style scoped>
.replay {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-height: 0;
}
.middle {
  display: grid;
  grid-template-columns: minmax(0, 648fr) minmax(0, 632fr);
  min-height: 0;
}
.picture {
  min-height: 0;
  border-right: 1px solid var(--rule);
}
.then {
  display: grid;
  min-height: 0;
}
.steps {
  display: grid;
  gap: 6px;
  height: 220px;
  padding: 10px 20px;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
  overflow-y: auto;
}
.play {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.slider {
  flex: 1;
  min-width: 180px;
}
.slider input {
  width: 100%;
  height: 48px;
  accent-color: var(--plum);
}
.done {
  display: flex;
  gap: 14px;
  margin: 0;
}
p {
  margin: 0;
}
.empty {
  display: grid;
  gap: 16px;
  align-content: start;
  justify-items: start;
  padding: 60px 28px;
}
@media (max-width: 1000px) and (orientation: portrait) {
  .middle {
    grid-template-rows: minmax(0, 1fr) auto;
    grid-template-columns: 1fr;
  }
}
</style>
