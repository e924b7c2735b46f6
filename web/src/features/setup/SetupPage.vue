<template>
  <main v-if="view && panel" class="setup" :data-seq="view.seq">
    <PathLine :view="view" />
    <div class="middle">
      <SetupPicture
        :view="view"
        :scene="panel.scene"
        :live="needle !== undefined"
        :course="run.course.value?.way"
        :waiting="outbox.reachable && !fault ? undefined : waiting.length"
        @press="trayRef?.press($event)"
        @course="run.show"
        @file="sheetOpen = true"
        @log="logOpen = true"
        @why="whyOpen = true"
      />
      <MovePanel
        ref="panelRef"
        :panel="panel"
        :res="view.resolution_mm"
        :ways="view.panels.length"
        :busy="busy"
        :fault="refused.field"
        @send="send(...carrying($event))"
        @another="way += 1"
      />
    </div>
    <RefusedLines :entries="refused.lines" @seen="outbox.drop" />
    <LiveNeedle
      v-if="needle && gauge"
      v-model="large"
      :needle="needle"
      :beside="beside?.needle"
      :aim="panel.aim"
      :graduation-mm="gauge.graduation_mm"
      :floor-mm="view.floor_mm"
      :shift-mm="shiftMm"
      :res="view.resolution_mm"
      :readable="readable"
      :fault="takeFault || tablet.fault.value"
      :offered="tablet.offered.value"
      :say="cells[current]?.cell.label ?? ''"
      @connect="tablet.connect"
      @take="take"
      @peak="peak"
    />
    <!-- Before anything is read its place belongs to what is to be done: nothing of a hold point is out of sight. -->
    <div v-show="view.tray.active || view.passes.length" class="below" :class="{ live: needle }">
      <ReadingTray
        ref="trayRef"
        :cells="cells"
        :current="current"
        :active="view.tray.active"
        :pass-no="view.tray.pass_no"
        :aim="panel.aim"
        :res="view.resolution_mm"
        :live="needle !== undefined"
        @read="read"
        @choose="choose"
      />
      <div class="results">
        <PassFigures :figures="view.figures" :res="view.resolution_mm" />
        <PassTable :passes="view.passes" :heads="view.heads" :res="view.resolution_mm" />
      </div>
    </div>
    <KeysDialog v-model="keysOpen" />
    <CourseDialog
      :run="run"
      :needle="needle"
      :first="cells[current]?.cell.short ?? ''"
      :res="view.resolution_mm"
    />
    <SheetDialog :id="view.id" v-model="sheetOpen" :res="view.resolution_mm" @send="send(...$event)" />
    <WhyDrawer
      :id="view.id"
      v-model="whyOpen"
      :seq="view.seq"
      :res="view.resolution_mm"
      :busy="busy"
      @send="send(...$event)"
    />
    <LogDrawer
      :id="view.id"
      v-model="logOpen"
      :seq="view.seq"
      :res="view.resolution_mm"
      :standing="view.standing"
      @note="send({ type: 'noted', text: $event })"
      @off="send({ type: 'taken_off' })"
    />
  </main>
  <main v-else class="empty">
    <template v-if="fault">
      <h1>{{ fault.detail }}</h1>
      <p>{{ fault.fix }}</p>
      <RouterLink class="button" to="/">To the Bench</RouterLink>
    </template>
    <p v-else class="soft">Fetching the set-up…</p>
  </main>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { usePrefs } from '../../shared/prefs'
import PassTable from '../../shared/components/PassTable.vue'
import CourseDialog from './CourseDialog.vue'
import ReadingTray from '../../shared/tray/ReadingTray.vue'
import { useTablet } from '../../shared/useTablet'
import KeysDialog from './KeysDialog.vue'
import LiveNeedle from './LiveNeedle.vue'
import LogDrawer from './LogDrawer.vue'
import MovePanel from './MovePanel.vue'
import PassFigures from './PassFigures.vue'
import PathLine from './PathLine.vue'
import RefusedLines from './RefusedLines.vue'
import SetupPicture from './SetupPicture.vue'
import SheetDialog from './SheetDialog.vue'
import WhyDrawer from './WhyDrawer.vue'
import { useCourse } from './useCourse'
import { useKeys } from './useKeys'
import { useSetup } from './useSetup'
import { useTake } from './useTake'
import { useWatch } from './useWatch'

const id = String(useRoute().params.id)
const prefs = usePrefs()
const { view, fault, cells, current, refused, waiting, busy, outbox, send, read, markBad, undo, choose } =
  useSetup(id)

const {
  needle,
  beside,
  gauge,
  readable,
  fault: takeFault,
  take,
  peak,
} = useTake({ view, cells, current, read })
const tablet = useTablet(needle)
const run = useCourse({ id, view, cells, needle, read })
const large = ref(false)
watch(large, (open) => open || void nextTick(() => trayRef.value?.focus())) // what is typed next is a reading again
const way = ref(0)
const keysOpen = ref(false)
const logOpen = ref(false)
const sheetOpen = ref(false)
const whyOpen = ref(false)
const panelRef = ref<InstanceType<typeof MovePanel>>()
const trayRef = ref<InstanceType<typeof ReadingTray>>()
const panel = computed(() => view.value?.panels[way.value % view.value.panels.length])
const { shiftMm, carrying } = useWatch({ view, panel, needle })

watch(
  () => view.value?.id,
  (found) => {
    if (found && view.value && prefs.lastSetup !== found) {
      prefs.lastSetup = found
      prefs.unit = view.value.unit
    }
  },
)
watch(
  () => view.value?.seq,
  () => (way.value = 0),
)

useKeys({
  view,
  current,
  open: { keys: keysOpen, log: logOpen, sheet: sheetOpen, why: whyOpen, course: run.open },
  panel: panelRef,
  tray: trayRef,
  another: () => (way.value += 1),
  take,
  peak: () => void peak(),
  live: () => needle.value !== undefined,
  large,
  course: run.show,
  choose,
  markBad,
  undo: () => void undo(),
})
</script>

<style scoped>
.setup {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) repeat(3, auto);
  min-height: 0;
}
.middle {
  display: grid;
  grid-template-columns: minmax(0, 648fr) minmax(0, 632fr);
  min-height: 0;
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 640fr) minmax(0, 600fr);
  gap: 20px;
  min-height: 190px; /* and as much more as the cells need */
  padding: 10px 20px;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
}
.below.live {
  min-height: 146px;
}
.results {
  display: flex;
  flex-direction: column;
  gap: 6px;
  height: 0; /* it takes what the cells leave it */
  min-height: 100%;
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
  .results {
    height: auto;
  }
}
@media (max-width: 1000px) and (orientation: portrait) {
  .setup {
    grid-template-rows: auto minmax(min-content, 1fr) repeat(3, auto);
  }
  .middle {
    grid-template-rows: minmax(300px, 1fr) auto;
    grid-template-columns: 1fr;
  }
}
</style>
