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
          <PracticeTools @turn="move" @spot="toSpot" @zero="zero" @bad="bad" />
        </section>
        <section class="right" aria-label="Indicator and hands">
          <DialSide
            :data="data"
            :mm="shown"
            :at-stop="target.at_stop"
            @square="act({ type: 'look', square: $event })"
          />
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
          <PracticeButtons
            :data="data"
            @grip="grip"
            @again="readAgain"
            @ask="act({ type: 'ask' })"
            @fault="naming = true"
            @good="good()"
          />
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
import ReadingTray from '../../shared/tray/ReadingTray.vue'
import DebriefView from './DebriefView.vue'
import DialSide from './DialSide.vue'
import FaultDialog from './FaultDialog.vue'
import HandPanel from './HandPanel.vue'
import PracticeButtons from './PracticeButtons.vue'
import PracticeTold from './PracticeTold.vue'
import PracticeTools from './PracticeTools.vue'
import PracticeTop from './PracticeTop.vue'
import RoundPicture from './RoundPicture.vue'
import TablePicture from './TablePicture.vue'
import { useActs } from './useActs'
import { useDrag } from './useDrag'
import { useHands } from './useHands'
import { usePractice } from './usePractice'
import { usePracticeKeys } from './usePracticeKeys'

/** Turned by so many notches with Shift. */
const MANY = 20
const practice = usePractice(String(useRoute().params.id))
const { data, fault, refused, away, busy, at, chosen, held, shown, target, current, station } = practice
const { act, move, turnKey, letGo, read, rests } = practice

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

const { toSpot, zero, bad, grip, readAgain, good, primary, tell, again } = useActs(practice, naming)

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
.right {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto auto;
  gap: 8px;
  min-height: 0;
  padding: 8px 20px;
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
}
</style>
