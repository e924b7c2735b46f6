<template>
  <main v-if="view && panel" class="setup" :data-seq="view.seq">
    <PathLine :view="view" />
    <div class="middle">
      <section class="picture" aria-label="Picture">
        <SceneView :scene="panel.scene" :resolution-mm="view.resolution_mm" />
        <NumberPad v-if="prefs.pad && view.tray.active" class="pad" @press="trayRef?.press($event)" />
        <p class="chips small">
          {{ view.machine }}<br />
          {{ view.gauge }} · {{ needle ? 'live' : 'typed in' }}
        </p>
        <div class="tools" :class="{ aside: prefs.pad && view.tray.active }">
          <button type="button" :aria-pressed="prefs.pad" @click="prefs.pad = !prefs.pad">Number pad</button>
          <button v-if="run.course.value" type="button" @click="run.show">
            {{ run.course.value.way === 'turn' ? 'Turn it slowly' : 'Run it along' }} <kbd>C</kbd>
          </button>
          <button v-if="view.tray.active && !prefs.pad" type="button" @click="sheetOpen = true">
            From a file
          </button>
          <button type="button" @click="logOpen = true">Log <kbd>L</kbd></button>
          <button type="button" title="Why won’t it come in?" @click="whyOpen = true">
            Stuck? <kbd>Y</kbd>
          </button>
        </div>
        <p v-if="!outbox.reachable || fault" class="away" role="status">
          The server does not answer. {{ waiting.length }} waiting here; they go up in order when it is back.
        </p>
      </section>
      <MovePanel
        ref="panelRef"
        :panel="panel"
        :res="view.resolution_mm"
        :ways="view.panels.length"
        :busy="busy"
        @send="send(...carrying($event))"
        @another="way += 1"
      />
    </div>
    <div v-for="entry in refused" :key="entry.event.id" class="refused" role="alert">
      <span class="fault">{{ entry.problem?.detail }} {{ entry.problem?.fix }}</span>
      <button class="button" type="button" @click="outbox.drop(entry.event.id)">Seen</button>
    </div>
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
    <div class="below" :class="{ live: needle }">
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
import SceneView from '../../shared/scenes/SceneView.vue'
import CourseDialog from './CourseDialog.vue'
import { useTablet } from '../../shared/useTablet'
import KeysDialog from './KeysDialog.vue'
import LiveNeedle from './LiveNeedle.vue'
import LogDrawer from './LogDrawer.vue'
import MovePanel from './MovePanel.vue'
import NumberPad from './NumberPad.vue'
import PassFigures from './PassFigures.vue'
import PathLine from './PathLine.vue'
import ReadingTray from './ReadingTray.vue'
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
.picture {
  position: relative;
  min-height: 0;
  border-right: 1px solid var(--rule);
}
.pad {
  position: absolute;
  bottom: 10px;
  left: 10px;
}
.chips {
  position: absolute;
  top: 10px;
  right: 16px;
  color: var(--ink-2);
  line-height: 1.35;
  text-align: right;
}
.tools {
  position: absolute;
  right: 8px;
  bottom: 4px;
  display: flex;
}
.tools.aside {
  flex-direction: column;
  align-items: end;
}
.tools button {
  min-height: 48px;
  padding: 0 10px;
  border: 0;
  background: transparent;
  color: var(--plum);
  font-size: var(--type-least);
  font-weight: 600;
  cursor: pointer;
}
.away {
  position: absolute;
  top: 8px;
  right: 8px;
  left: 8px;
  padding: 10px 14px;
  border: 1.5px dashed var(--unsure);
  border-radius: 8px;
  background: var(--unsure-wash);
  font-weight: 600;
}
.refused {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  padding: 6px 20px;
  border-top: 1px solid var(--rule);
  background: var(--out-wash);
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 640fr) minmax(0, 600fr);
  gap: 20px;
  height: 190px;
  padding: 10px 20px;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
}
.below.live {
  height: 146px;
}
.results {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-height: 0;
}
.empty {
  display: grid;
  gap: 16px;
  align-content: start;
  justify-items: start;
  padding: 60px 28px;
}
@media (max-width: 1000px) {
  .below,
  .below.live {
    grid-template-columns: 1fr;
    height: auto;
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
