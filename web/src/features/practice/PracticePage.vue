<template>
  <main
    v-if="data"
    class="practice"
    :data-seq="data.seq"
    :data-rests="rests || undefined"
    :data-busy="busy || undefined"
  >
    <PracticeTop :data="data" :res="res" />
    <DebriefView v-if="data.ended" :told="data.ended" :past="data.past" :res="res" @again="again" />
    <template v-else>
      <div class="middle">
        <section
          class="picture"
          aria-label="Picture"
          @pointerdown="grab"
          @pointermove="drag"
          @pointerup="drop"
          @pointercancel="drop"
          @wheel.prevent="move($event.deltaY > 0 ? -2 : 2)"
        >
          <RoundPicture
            v-if="data.turns"
            :hands="data.hands"
            :places="data.places"
            :station="station"
            :at="at"
            :clock="data.clock_deg"
            :gauge-moves="data.gauge_moves"
            :held="now?.control.kind === 'tap' ? undefined : now?.control.id"
            :hammer="now?.control.here ?? false"
          />
          <TablePicture v-else :places="data.places" :station="station" :at="at" />
          <div class="tools">
            <button class="button way" type="button" aria-label="Turn back" @click="move(-5)">
              <kbd>A</kbd>
            </button>
            <button class="button way" type="button" aria-label="Turn on" @click="move(5)">
              <kbd>D</kbd>
            </button>
            <button class="button" type="button" @click="toSpot">To the spot <kbd>N</kbd></button>
            <button class="button" type="button" @click="zero">Zero here <kbd>Z</kbd></button>
            <button class="button" type="button" @click="bad">Bad spot <kbd>X</kbd></button>
          </div>
        </section>
        <section class="right" aria-label="Indicator and hands">
          <div class="dial">
            <DialFace :dial="data.dial" :mm="shown" :at-stop="target.at_stop" />
            <p class="small soft">
              One mark is {{ formatSize(markMm(data.dial), prefs.unit, true) }}.
              <template v-if="data.aslant">
                <br />
                <button
                  class="button"
                  type="button"
                  :aria-pressed="data.square"
                  @click="act({ type: 'look', square: !data.square })"
                >
                  Stand square to it <kbd>S</kbd>
                </button>
              </template>
            </p>
          </div>
          <HandPanel
            :hands="data.hands"
            :now="now"
            :held="heldMm"
            :picked="picked"
            @hold="hold"
            @turn="turn"
            @tap="tap"
            @pick="pick"
            @release="release"
          />
          <div class="acts">
            <button v-if="data.hands.length" class="button" type="button" @click="grip('tighten')">
              Tighten <kbd>T</kbd>
            </button>
            <button
              v-if="data.hands.length && data.grip !== 'snug'"
              class="button"
              type="button"
              @click="grip('loosen')"
            >
              Loosen <kbd>O</kbd>
            </button>
            <button class="button" type="button" @click="readAgain">Read again <kbd>R</kbd></button>
            <button
              v-if="data.advice_kind === 'asked'"
              class="button"
              type="button"
              @click="act({ type: 'ask' })"
            >
              Ask <kbd>H</kbd>
            </button>
            <button class="button" type="button" @click="naming = true">Name a fault <kbd>F</kbd></button>
            <button class="button main" type="button" @click="good()">It’s good <kbd>G</kbd></button>
          </div>
        </section>
      </div>
      <div class="below">
        <ReadingTray
          ref="trayRef"
          :cells="data.view.tray.cells.map((cell) => ({ cell }))"
          :current="current"
          :active="data.view.tray.active"
          :pass-no="data.view.tray.pass_no"
          :aim="data.advice?.aim ?? null"
          :res="res"
          live
          @read="read"
          @choose="chosen = $event"
        />
        <PracticeTold
          :data="data"
          :refused="refused"
          :away="away"
          :busy="busy"
          :primary="primary"
          :res="res"
          @tell="tell"
        />
      </div>
    </template>
    <FaultDialog v-model="naming" :faults="data.faults" @name="good" />
  </main>
  <main v-else class="empty">
    <template v-if="fault">
      <h1>{{ fault.detail }}</h1>
      <p>{{ fault.fix }}</p>
      <RouterLink class="button" to="/practice">To the list</RouterLink>
    </template>
  </main>
</template>

<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../../api/client'
import { formatSize } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useBegin } from '../../shared/useBegin'
import { ReadingTray } from '../setup'
import { markMm } from './dial'
import DebriefView from './DebriefView.vue'
import DialFace from './DialFace.vue'
import FaultDialog from './FaultDialog.vue'
import HandPanel from './HandPanel.vue'
import PracticeTold from './PracticeTold.vue'
import PracticeTop from './PracticeTop.vue'
import RoundPicture from './RoundPicture.vue'
import TablePicture from './TablePicture.vue'
import { useDrag } from './useDrag'
import { useHands } from './useHands'
import { usePractice } from './usePractice'
import { usePracticeKeys } from './usePracticeKeys'

type Fault = NonNullable<Schemas['Good']['fault']>
/** What the advice’s button may tell the set-up. */
const TOLD = ['move_done', 'tightened', 'proved', 'step_passed', 'zero_set', 'pass_closed', 'reading_kept']
/** Turned by so many notches with Shift. */
const MANY = 20
const route = useRoute()
const begin = useBegin()
const prefs = usePrefs()
const {
  data,
  fault,
  refused,
  away,
  busy,
  at,
  chosen,
  cells,
  held,
  shown,
  target,
  current,
  station,
  act,
  goTo,
  move,
  turnKey,
  letGo,
  read,
  rests,
} = usePractice(String(route.params.id))

const res = computed(() => data.value?.view.resolution_mm ?? 0.001)
const trayRef = ref<InstanceType<typeof ReadingTray>>()
const naming = ref(false)

const { now, heldMm, picked, hold, next, turn, tap, pick, release } = useHands({
  data,
  held,
  act,
  turnKey,
  letGo,
  at,
})

function toSpot(): void {
  const spot = data.value?.places.find((p) => p.station_id === station.value)
  if (spot) goTo(spot.at)
}
function zero(): void {
  if (station.value)
    void act({
      type: 'done',
      body: { type: 'zero_set', station_id: station.value, why: 'zero' },
      at: at.value,
    })
}
function bad(): void {
  const here = cells.value[current.value]
  const pass_no = data.value?.view.tray.pass_no
  if (here && pass_no && !here.closing)
    void act({
      type: 'done',
      body: { type: 'spot_marked', pass_no, station_id: here.station_id, bad: here.state !== 'bad' },
    })
}
async function grip(way: 'tighten' | 'loosen'): Promise<void> {
  await letGo()
  await act({ type: 'grip', way })
}
async function readAgain(): Promise<void> {
  await letGo()
  const open = data.value?.view.tray
  if (open) await act({ type: 'done', body: { type: 'pass_closed', pass_no: open.pass_no } })
}
async function good(name?: string): Promise<void> {
  naming.value = false
  await letGo()
  await act({ type: 'good', fault: (name as Fault | undefined) ?? null })
}
const primary = computed(() => {
  const offered = data.value?.advice?.primary
  return offered?.events.every((e) => TOLD.includes(e.type)) ? offered : undefined
})
async function tell(action: Schemas['Action']): Promise<void> {
  await letGo()
  for (const body of action.events) await act({ type: 'done', body })
}

async function again(): Promise<void> {
  if (!data.value) return
  const { drill, past, advice_kind: advice } = data.value
  await begin({ drill, past, advice })
}

const { grab, drag, drop } = useDrag(data, move)

usePracticeKeys({
  data,
  naming,
  untouched: () => trayRef.value?.untouched() ?? true,
  named: (id) => void good(id),
  again: () => void again(),
  keys: (event) => {
    const many = event.shiftKey ? MANY : 1
    const kind = now.value?.control.kind
    const sideways = (by: number): void => (kind === 'pick' ? pick(by) : turn(by * many))
    return {
      a: () => move(event.shiftKey ? -15 : -1),
      d: () => move(event.shiftKey ? 15 : 1),
      n: toSpot,
      z: zero,
      x: bad,
      t: data.value?.hands.length ? () => grip('tighten') : undefined,
      o: () => grip('loosen'),
      r: readAgain,
      h: data.value?.advice_kind === 'asked' ? () => act({ type: 'ask' }) : undefined,
      f: () => (naming.value = true),
      g: () => good(),
      s: data.value?.aslant ? () => act({ type: 'look', square: !data.value?.square }) : undefined,
      arrowdown: () => next(1),
      arrowup: () => next(-1),
      arrowleft: () => sideways(-1),
      arrowright: () => sideways(1),
      escape: release,
      ' ': kind === 'tap' ? () => tap(event.shiftKey) : undefined,
      enter: primary.value ? () => primary.value && tell(primary.value) : undefined,
    }
  },
})
</script>

<style scoped>
.practice {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-height: 0;
}
.middle {
  display: grid;
  grid-template-columns: minmax(0, 600fr) minmax(0, 680fr);
  min-height: 0;
}
.picture {
  position: relative;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  border-right: 1px solid var(--rule);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: center;
  padding: 4px;
}
.right {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto auto;
  gap: 8px;
  min-height: 0;
  padding: 8px 20px;
}
.dial {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 130px;
  gap: 8px;
  align-items: center;
  min-height: 0;
}
.dial > :first-child {
  min-height: 0;
  height: 100%;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.acts .button,
.tools .button {
  min-height: 48px;
  padding: 0 12px;
}
.acts .main {
  margin-left: auto;
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 640fr) minmax(0, 600fr);
  gap: 20px;
  min-height: 170px;
  padding: 10px 20px;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
}
.empty {
  display: grid;
  gap: 16px;
  align-content: start;
  justify-items: start;
  padding: 60px 28px;
}
@media (max-width: 1100px) {
  .acts kbd,
  .tools .button:not(.way) kbd {
    display: none;
  }
}
@media (max-width: 1000px) {
  .below {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 1000px) and (orientation: portrait) {
  .middle {
    grid-template-rows: minmax(0, 1fr) auto;
    grid-template-columns: 1fr;
  }
  .picture {
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  .dial {
    height: 290px;
  }
}
</style>
