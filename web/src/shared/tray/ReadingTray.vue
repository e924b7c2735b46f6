<template>
  <section class="readings" aria-label="Readings">
    <p v-if="ringWords" class="ring label">{{ ringWords }}</p>
    <div class="cells" :class="{ many, wide, long: letters > LONG, longer: letters > LONG + 1 }">
      <TrayCellView
        v-for="{ item, index } in shownCells"
        :key="`${item.cell.station_id}${item.cell.closing}`"
        ref="shownRefs"
        v-model="typed"
        :item="item"
        :now="active && index === current"
        :many="many"
        :small="many && !wide"
        :active="active"
        :aim-mm="aimAt(item)"
        :res="res"
        @enter="enter"
        @choose="emit('choose', index)"
      />
    </div>
    <p v-if="problem" class="fault" role="alert">{{ problem.detail }} {{ problem.fix }}</p>
    <p v-else-if="!active" class="soft small">Readings are taken in “Read &amp; correct” and “Prove”.</p>
    <p v-else-if="!live" class="soft small help">
      Pass {{ passNo }}: type {{ whatToType }}, Enter moves on. <b>X</b> bad spot,
      <template v-if="!many"><b>+off</b> or <b>-off</b> past the end, <b>U</b> undo, </template><b>?</b> all
      keys.
    </p>
  </section>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { unitWord } from '../format'
import { usePrefs } from '../prefs'
import { shownIn, typedOf, type TrayCell } from './cells'
import TrayCellView from './TrayCellView.vue'

interface Props {
  /** The stations of the pass, with what waits for them. */
  cells: readonly TrayCell[]
  /** Which one is typed into. */
  current: number
  /** Can readings be taken now? */
  active: boolean
  /** The pass that the readings belong to. */
  passNo: number
  /** The aim of the move that is shown, if there is one. */
  aim: Schemas['AimBox'] | null
  /** The finest step worth showing, mm. */
  res: number
  /** A live needle is there, and says itself how a reading is taken. */
  live?: boolean
}
const props = withDefaults(defineProps<Props>(), { live: false })
const emit = defineEmits<{ read: [text: string]; choose: [index: number] }>()
const prefs = usePrefs()
/** So many figures fit in large letters. */
const LONG = 5
const typed = ref('')
const shownRefs = ref<InstanceType<typeof TrayCellView>[]>()
/** The ring that is being read; work that is read on several has one row of cells at a time. */
const ring = computed(() => (props.cells[props.current] ?? props.cells.at(-1))?.cell.ring)
const shownCells = computed(() =>
  props.cells.map((item, index) => ({ item, index })).filter(({ item }) => item.cell.ring === ring.value),
)
const many = computed(() => shownCells.value.length > 6)
/** Small cells that have more to say than a name and a figure are a little wider, as long as there is room. */
const wide = computed(
  () =>
    shownCells.value.length <= 12 &&
    shownCells.value.some(
      (one) => one.item.cell.short.length > 10 || one.item.cell.note.length > 0 || aimAt(one.item) !== null,
    ),
)
/** How long the longest reading is: those with many figures are all written smaller, so that they are alike. */
const letters = computed(() =>
  Math.max(...shownCells.value.map((one) => shownIn(one.item, prefs.unit, props.res).length), LONG),
)
const whatToType = computed(() => {
  const unit = unitWord(prefs.unit)
  const reads = props.cells[props.current]?.cell.reads ?? 'needle'
  return {
    needle: `what the needle shows in ${unit}`,
    gap: `the gap in ${unit}`,
    size: `what it measures across in ${unit}`,
    swing: `highest minus lowest of a turn in ${unit}`,
    degrees: 'where it was highest, in degrees from the mark',
  }[reads]
})
const ringWords = computed(() => {
  const rings = [...new Set(props.cells.map((c) => c.cell.ring))]
  const group = shownCells.value[0]?.item.cell.group
  if (rings.length < 2 || !group) return ''
  return `${group} · ${rings.indexOf(ring.value ?? '') + 1} of ${rings.length}`
})
const problem = computed(() => props.cells[props.current]?.waiting?.problem)

/** Where the needle has to stop, if the move is watched at this station. */
function aimAt(item: TrayCell): number | null {
  return props.aim && !item.cell.closing && props.aim.station_id === item.cell.station_id
    ? props.aim.aim_mm
    : null
}

/** Which spot it is, of which pass; its number in the row may become that of another one. */
const placeOf = (item?: TrayCell): string =>
  item ? `${props.passNo} ${item.cell.station_id} ${item.cell.closing}` : ''
/** A cell that holds a reading is entered with its text, ready to be typed over. */
let loaded = ''
/** The spot that it was loaded for, and where that stood in the row. */
let place = ''
let stood = -1
function fill(): void {
  const item = props.cells[props.current]
  if (!untouched()) {
    // What is typed meanwhile is nobody's to clear, nor to put under another spot.
    if (placeOf(item) === place) {
      stood = props.current
      return
    }
    const moved = props.cells.findIndex((one) => placeOf(one) === place)
    if (moved >= 0 && moved !== stood) {
      stood = moved
      emit('choose', moved)
      return
    }
  }
  place = placeOf(item)
  stood = props.current
  const sameUnit = item?.waiting ?? (item?.cell.typed_unit === prefs.unit || item?.cell.needle_mm === null)
  loaded = sameUnit ? typedOf(item) : item ? shownIn(item, prefs.unit, props.res).replace('\u2212', '-') : ''
  typed.value = loaded
}
watch(
  // One source each: a getter that makes a new array would fire on every view, in the midst of typing.
  [
    () => props.current,
    () => placeOf(props.cells[props.current]),
    () => props.active,
    () => props.cells[props.current]?.cell.reading_id,
  ],
  () => {
    fill()
    void nextTick(focus)
  },
  { immediate: true },
)

function enter(event: KeyboardEvent): void {
  const text = typed.value.trim()
  if (!text) return
  event.stopPropagation()
  event.preventDefault()
  read(text)
}
function read(text: string): void {
  loaded = typed.value = ''
  emit('read', text)
  void nextTick(fill)
}

function focus(): void {
  for (const cell of shownRefs.value ?? []) cell.focus()
}
function press(key: string): void {
  if (key === 'Enter') read(typed.value.trim())
  else if (key === 'back') typed.value = typed.value.slice(0, -1)
  else typed.value += key
  focus()
}
/** Nothing typed yet: the field is empty, or holds the reading as it was. */
function untouched(): boolean {
  return typed.value === loaded
}
const empty = (): boolean => typed.value === ''
defineExpose({ press, untouched, empty, focus })
</script>

<style scoped>
.readings {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
}
.ring {
  margin-bottom: -4px;
}
.cells {
  --value: var(--type-head);
  display: grid;
  grid-auto-columns: minmax(0, 1fr);
  grid-auto-flow: column;
  gap: 8px;
}
.cells.long:not(.many) {
  --value: var(--type-lead);
}
/* Six readings of five figures, or more, are as wide as their cells. */
.cells:has(> :nth-child(6)) {
  --value: var(--type-lead);
}
.cells:not(.many):has(> :nth-child(6)) > * {
  padding-inline: 5px;
}
.cells.longer:not(.wide) {
  --value: var(--type-body);
}
.cells.many {
  grid-auto-flow: row;
  grid-template-columns: repeat(auto-fill, minmax(72px, 1fr));
  gap: 4px;
}
.cells.many.wide {
  grid-template-columns: repeat(auto-fill, minmax(106px, 1fr));
}
.help b {
  color: var(--ink);
}
</style>
