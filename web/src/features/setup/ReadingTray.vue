<template>
  <section class="readings" aria-label="Readings">
    <p v-if="ringWords" class="ring label">{{ ringWords }}</p>
    <div class="cells" :class="{ many }" :style="{ '--columns': columns, '--value': `${valuePx}px` }">
      <div
        v-for="{ item, index } in shownCells"
        :key="`${item.cell.station_id}${item.cell.closing}`"
        class="cell"
        :class="[item.cell.state, { now: active && index === current, waits: item.waiting }]"
        :data-station="item.cell.label"
        @click="emit('choose', index)"
      >
        <p class="head">
          <span>{{ item.cell.short }}</span>
          <RichText v-if="!many" :parts="item.cell.at" :resolution-mm="res" />
        </p>
        <input
          v-if="active && index === current"
          ref="field"
          v-model="typed"
          class="value num"
          data-quiet
          data-part="reading"
          :aria-label="`Reading at ${item.cell.label}`"
          :aria-invalid="Boolean(item.waiting?.problem)"
          :inputmode="prefs.pad ? 'none' : 'text'"
          autocomplete="off"
          autocapitalize="off"
          spellcheck="false"
          maxlength="24"
          @keydown.enter="enter"
          @focus="field?.[0]?.select()"
        />
        <p v-else class="value num">{{ shown(item) }}</p>
        <p class="foot">
          <span v-if="item.waiting && !item.waiting.problem" class="waits">waiting</span>
          <span v-else-if="aimAt(item) !== null" class="aims">
            aim
            <span class="num">{{
              bareLength(aimAt(item) ?? 0, prefs.unit, res, item.cell.reads === 'needle')
            }}</span>
          </span>
          <span v-else-if="!many && item.cell.true_mm !== null && !item.cell.note.length">
            true at
            <span class="num">{{
              bareLength(item.cell.true_mm, prefs.unit, res, item.cell.reads === 'needle')
            }}</span>
          </span>
          <RichText v-else :parts="item.cell.note" :resolution-mm="res" />
        </p>
      </div>
    </div>
    <p v-if="problem" class="fault" role="alert">{{ problem.detail }} {{ problem.fix }}</p>
    <p v-else-if="!active" class="soft small">Readings are taken in “Read &amp; correct” and “Prove”.</p>
    <p v-else class="soft small help">
      Pass {{ passNo }}: type {{ whatToType }}, Enter moves on. <b>X</b> bad spot,
      <template v-if="!many"><b>+off</b> or <b>-off</b> past the end, <b>U</b> undo, </template><b>?</b> all
      keys.
    </p>
  </section>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import { bareLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import type { TrayCell } from './useSetup'

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
}
const props = defineProps<Props>()
const emit = defineEmits<{ read: [text: string]; choose: [index: number] }>()
const prefs = usePrefs()
const typed = ref('')
const field = ref<HTMLInputElement[]>()
/** The ring that is being read; work that is read on several has one row of cells at a time. */
const ring = computed(() => (props.cells[props.current] ?? props.cells.at(-1))?.cell.ring)
const shownCells = computed(() =>
  props.cells.map((item, index) => ({ item, index })).filter(({ item }) => item.cell.ring === ring.value),
)
const many = computed(() => shownCells.value.length > 6)
/** More than ten go into rows of seven, so that all stay on the screen. */
const columns = computed(() => (!many.value ? shownCells.value.length : shownCells.value.length > 10 ? 7 : 5))
/** As big as the longest number lets it be. */
const valuePx = computed(() => {
  const longest = Math.max(4, ...shownCells.value.map(({ item }) => shown(item).length))
  const room = 628 / columns.value - 30
  return Math.round(Math.min(many.value ? 22 : 30, room / (longest * 0.57)))
})
const whatToType = computed(() => {
  const unit = unitWord(prefs.unit)
  const reads = props.cells[props.current]?.cell.reads ?? 'needle'
  return {
    needle: `what the needle shows in ${unit}`,
    gap: `the gap in ${unit}`,
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

function typedOf(item: TrayCell | undefined): string {
  const body = item?.waiting?.event.body
  if (body?.type === 'reading_taken' || body?.type === 'reading_corrected') return body.typed.text
  return item?.cell.typed ?? ''
}

function shown(item: TrayCell): string {
  if (item.waiting) return typedOf(item)
  if (item.cell.reads === 'degrees')
    return item.cell.typed === null ? '' : `${item.cell.typed.replace('°', '')}°`
  if (item.cell.needle_mm !== null)
    return bareLength(item.cell.needle_mm, prefs.unit, props.res, item.cell.reads === 'needle') || '0'
  return item.cell.state === 'bad' ? '×' : (item.cell.typed ?? '')
}

/** A cell that holds a reading is entered with its text, ready to be typed over. */
/** Where the needle has to stop, if the move is watched at this station. */
function aimAt(item: TrayCell): number | null {
  return props.aim && !item.cell.closing && props.aim.station_id === item.cell.station_id
    ? props.aim.aim_mm
    : null
}

let loaded = ''
function fill(): void {
  const item = props.cells[props.current]
  const sameUnit = item?.waiting ?? (item?.cell.typed_unit === prefs.unit || item?.cell.needle_mm === null)
  loaded = sameUnit ? typedOf(item) : item ? shown(item).replace('\u2212', '-') : ''
  typed.value = loaded
}
watch(
  // One source each: a getter that makes a new array would fire on every view, in the midst of typing.
  [
    () => props.current,
    () => props.passNo,
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
  typed.value = ''
  emit('read', text)
  void nextTick(fill)
}

function focus(): void {
  field.value?.[0]?.focus({ preventScroll: true })
}
function press(key: string): void {
  if (key === 'Enter') emit('read', typed.value.trim())
  else if (key === 'back') typed.value = typed.value.slice(0, -1)
  else typed.value += key
  if (key === 'Enter') void nextTick(fill)
  focus()
}
/** Nothing typed yet: the field is empty, or holds the reading as it was. */
const untouched = (): boolean => typed.value === loaded
const empty = (): boolean => typed.value === ''
defineExpose({ press, untouched, empty })
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
  display: grid;
  grid-auto-columns: minmax(0, 1fr);
  grid-auto-flow: column;
  gap: 8px;
}
.cells.many {
  grid-auto-flow: row;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  gap: 4px;
}
.cell {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  min-height: 104px;
  padding: 7px 10px;
  border: 1.5px solid var(--rule);
  border-radius: 8px;
  background: var(--ground);
  cursor: pointer;
}
.many .cell {
  min-height: 46px;
  padding: 1px 8px;
}
.many .cell.now {
  padding: 0 6.5px;
}
.cell.now {
  border: 3px solid var(--plum);
  background: var(--sheet);
}
.cell.waits {
  border-style: dashed;
  border-color: var(--unsure);
}
.cell.bad .value,
.cell.wild .value {
  color: var(--out);
  text-decoration: line-through;
}
.head {
  display: flex;
  justify-content: space-between;
  color: var(--ink-2);
  font-size: 14px;
  font-weight: 600;
  line-height: 1.2;
}
.many .head {
  line-height: inherit;
  white-space: nowrap;
  overflow: hidden;
}
.value {
  width: 100%;
  min-width: 0;
  min-height: 1em;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--ink);
  font-size: var(--value);
  font-weight: 600;
  letter-spacing: -0.06em;
  line-height: 1.05;
  overflow: hidden;
  text-overflow: ellipsis;
}
input.value:focus-visible {
  outline: none;
}
.foot {
  min-height: 19px;
  color: var(--ink-2);
  font-size: 14px;
  line-height: 1.3;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.many .foot {
  min-height: 0;
  font-size: 14px;
}
.many .cell.now .foot:empty {
  display: none;
}
.aims {
  color: var(--brass-ink);
  font-weight: 600;
}
span.waits {
  color: var(--unsure);
  font-weight: 650;
}
.help b {
  color: var(--ink);
}
</style>
