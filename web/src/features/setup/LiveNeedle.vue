<template>
  <section class="live" :class="needle.state" aria-label="Live needle">
    <p class="state small">
      <b>{{ needle.name }}</b><br />{{ stateWord }}
    </p>
    <p class="shows num" data-part="live">{{ shows }}</p>
    <p v-if="beside" class="beside small" data-part="beside">
      <b>{{ beside.name }}</b><br /><span class="num">{{
        beside.mm === null ? '–' : bareLength(beside.mm, prefs.unit, res, true)
      }}</span>
      {{ beside.state === 'live' ? (beside.still ? 'still' : 'moving') : beside.why }}
    </p>
    <svg v-if="at !== undefined" viewBox="0 0 240 34" aria-hidden="true">
      <rect class="band" :x="aimAt - bandPx" :width="2 * bandPx" y="4" height="20" />
      <line class="scale" x1="4" x2="236" y1="24" y2="24" />
      <path class="aim" :d="`M${aimAt - 6} 0h12l-6 9z`" />
      <line class="hand" :x1="at" :x2="at" y1="6" y2="30" />
    </svg>
    <p v-if="fault" class="fault small words" role="alert">{{ fault }}</p>
    <p v-else class="left words">{{ left }}</p>
    <div class="ways">
      <button v-if="offered" class="button main" type="button" @click="emit('connect')">
        Connect it here
      </button>
      <button class="button" type="button" :disabled="!readable" @click="emit('take')">
        Take <kbd>Space</kbd>
      </button>
      <button class="button" type="button" :aria-pressed="needle.side !== null" @click="emit('peak')">
        {{ needle.side ? PEAKS[needle.side] : 'Peak' }} <kbd>V</kbd>
      </button>
      <button class="button" type="button" :aria-pressed="prefs.bySelf" @click="prefs.bySelf = !prefs.bySelf">
        By itself <kbd>S</kbd>
      </button>
      <button class="button" type="button" @click="large = true">Large <kbd>G</kbd></button>
    </div>
  </section>
  <LargeNeedle
    v-model="large"
    :needle="needle"
    :state="stateWord"
    :shows="shows"
    :words="left || say"
    :readable="readable"
    :marks-off="leftMm === undefined ? undefined : leftMm / graduationMm"
    @take="emit('take')"
  />
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength, formatLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import type { Needle } from '../../shared/useNeedles'
import LargeNeedle from './LargeNeedle.vue'
import { PEAKS, stateOf } from './needle'

interface Props {
  /** What it shows now. */
  needle: Needle
  /** Another one at the same spot, which is read by the same key. */
  beside?: Needle | undefined
  /** Where it has to stop, when a move is made with it. */
  aim: Schemas['AimBox'] | null
  /** One graduation, mm. */
  graduationMm: number
  /** TIR that the machine repeats to, mm. */
  floorMm?: number
  /** By how much it has gone since tightening began, mm. */
  shiftMm?: number | undefined
  /** The finest step worth showing, mm. */
  res: number
  /** Can a reading be taken now? */
  readable: boolean
  /** Why the last one was not taken. */
  fault: string
  /** Does it hang on a tablet, and nobody reads it yet? */
  offered?: boolean
  /** What is to be read next. */
  say: string
}
const props = withDefaults(defineProps<Props>(), {
  beside: undefined,
  floorMm: 0,
  offered: false,
  shiftMm: undefined,
})
const emit = defineEmits<{ take: []; peak: []; connect: [] }>()
const large = defineModel<boolean>({ required: true })
const prefs = usePrefs()

const live = computed(() => props.needle.state === 'live' && props.needle.mm !== null)
const stateWord = computed(() => stateOf(props.needle, prefs.unit, props.res))
const shows = computed(() =>
  props.needle.mm === null ? '–' : bareLength(props.needle.mm, prefs.unit, props.res, true),
)
const aimMm = computed(() => props.aim?.aim_mm ?? undefined)
/** The band round the aim within which it is good enough: a graduation, or what the machine repeats to at a spot, if that is more. */
const nearMm = computed(() => Math.max(props.graduationMm, props.floorMm / 2))
/** How far it has to go still; plus when it has to rise. */
const leftMm = computed(() =>
  live.value && aimMm.value !== undefined && props.needle.mm !== null
    ? aimMm.value - props.needle.mm
    : undefined,
)
/** Which way the move takes the needle: it is past the aim when it was on this side of it, and is on the other. */
const begun = computed(() =>
  props.aim && props.aim.aim_mm !== null && props.aim.now_mm !== null
    ? props.aim.aim_mm - props.aim.now_mm
    : 0,
)
const nearSide = ref(false)
watch(
  [aimMm, leftMm],
  ([aim, mm], [before]) => {
    if (aim !== before) nearSide.value = false
    if (mm !== undefined && mm * begun.value > 0) nearSide.value = true
  },
  { immediate: true },
)
const left = computed(() => {
  const mm = leftMm.value
  if (props.shiftMm !== undefined)
    return `${formatLength(props.shiftMm, prefs.unit, props.res, true)} while it is tightened.`
  if (mm === undefined) return ''
  if (Math.abs(mm) <= nearMm.value) return 'At the aim.'
  const past = nearSide.value && mm * begun.value < 0
  const way = mm > 0 ? 'up' : 'down'
  const words = formatLength(Math.abs(mm), prefs.unit, props.res)
  return past ? `Past the aim: ${words} back ${way}.` : `${words} ${way} to the aim.`
})

/** The scale is as wide as the way from where it began to the aim, and never less than ten graduations. */
const span = computed(() => Math.max(10 * props.graduationMm, 1.4 * Math.abs(begun.value)))
const px = (mm: number): number => 120 + Math.max(-116, Math.min(116, (116 * mm) / span.value))
const aimAt = computed(() => px(0))
const at = computed(() => (leftMm.value === undefined ? undefined : px(-leftMm.value)))
const bandPx = computed(() => Math.max(2, (116 * nearMm.value) / span.value))
</script>

<style scoped>
.live {
  display: flex;
  gap: 16px;
  align-items: center;
  min-width: 0;
  padding: 4px 20px;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
}
.live p {
  margin: 0;
}
.live svg {
  flex: none;
  width: 220px;
}
.state {
  flex: none;
  max-width: 220px;
}
.shows {
  flex: none;
  min-width: 6.5ch;
  font-size: 34px;
  font-weight: 700;
  line-height: 1.2;
  text-align: right;
}
.stale .shows,
.gone .shows,
.opening .shows {
  color: var(--ink-2);
  text-decoration: line-through;
}
.live.gone,
.live.stale {
  border: 1.5px dashed var(--out);
}
.scale {
  stroke: var(--rule);
}
.band {
  fill: var(--brass-wash);
}
.aim {
  fill: var(--brass);
}
.hand {
  stroke: var(--plum);
  stroke-width: 4;
}
.words {
  flex: 1;
  min-width: 0;
}
.left {
  color: var(--brass-ink);
  font-weight: 700;
}
.ways {
  display: flex;
  gap: 6px;
  justify-content: flex-end;
}
.ways .button {
  padding: 0 10px;
  white-space: nowrap;
}
.ways .button[aria-pressed='true'] {
  background: var(--plum-wash);
}
@media (max-width: 1200px) {
  .live .ways kbd {
    display: none;
  }
  .live svg {
    width: 140px;
  }
  .state {
    max-width: 150px;
  }
}
@media (max-width: 1000px) {
  .live {
    flex-wrap: wrap;
    gap: 4px 12px;
  }
  .live .words {
    flex-basis: 160px;
  }
  .live .ways {
    flex-basis: 100%;
    flex-wrap: wrap;
  }
}
</style>
