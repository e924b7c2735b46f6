<template>
  <section class="say" aria-label="What to do now" :data-busy="busy || undefined">
    <p class="visually-hidden" role="status" aria-live="polite" data-part="said">{{ said }}</p>
    <div class="words" tabindex="0" role="region" aria-label="The move and why">
      <RichText tag="p" class="label" :parts="panel.kicker" :resolution-mm="res" />
      <div class="head">
        <VerdictMark v-if="panel.verdict" :outcome="panel.verdict.outcome" :size="44" class="mark" />
        <RichText
          tag="h1"
          :class="{ long }"
          :parts="panel.headline"
          :resolution-mm="res"
          data-part="headline"
        />
      </div>

      <div v-if="panel.aim && panel.aim.aim_mm !== null" class="aim" data-part="aim">
        <div>
          <p class="label">{{ panel.aim.what === 'gap' ? 'Gap' : 'Needle' }} now, {{ panel.aim.label }}</p>
          <p class="big num">{{ needle(panel.aim.now_mm) }}</p>
        </div>
        <svg viewBox="0 0 120 26" aria-hidden="true">
          <line x1="4" x2="100" y1="13" y2="13" />
          <path d="M96 4l18 9-18 9z" />
        </svg>
        <div class="end">
          <p class="label">Aim, {{ panel.aim.label }}</p>
          <p class="big num gold">
            {{ needle(panel.aim.aim_mm) }} <small>{{ unitWord(prefs.unit) }}</small>
          </p>
        </div>
      </div>

      <p v-if="panel.expect" class="aim expect" data-part="expect">
        <span class="label">Expect afterwards</span>
        <span class="big num gold">
          {{ bareLength(panel.expect.mm, prefs.unit, res) }}
          <small>{{ unitWord(prefs.unit) }} {{ panel.expect_word }}</small>
        </span>
      </p>

      <ul v-if="panel.cautions.length" class="cautions">
        <li v-for="(caution, index) in panel.cautions" :key="caution.id">
          <label v-if="panel.hold">
            <input v-model="ticked" type="checkbox" :value="caution.id" />
            <span>{{ caution.text }}</span><kbd>{{ index + 1 }}</kbd>
          </label>
          <p v-else>{{ caution.text }}</p>
        </li>
      </ul>

      <div v-if="panel.ask !== 'nothing'" :class="['ask', panel.ask]">
        <label class="label" for="gap">{{ panel.ask_label }}</label>
        <input
          id="gap"
          v-model="gap"
          class="line num"
          data-quiet
          autocomplete="off"
          :inputmode="panel.ask === 'taps' ? 'numeric' : 'decimal'"
          :aria-invalid="!tapsFit"
          :placeholder="panel.ask === 'taps' ? '5' : unitWord(prefs.unit)"
          @keydown.enter="sendGap"
        />
        <p v-if="!tapsFit" class="fault" role="alert">A whole number of taps, 1 to 500; or leave it empty.</p>
      </div>

      <RichText
        v-for="(line, index) in panel.why"
        :key="index"
        tag="p"
        class="why"
        :parts="line"
        :resolution-mm="res"
      />
    </div>

    <form v-if="reasonFor" class="reason" @submit.prevent="giveReason">
      <label class="label" for="reason">{{ reasonFor.label }}: why?</label>
      <input
        id="reason"
        ref="reasonInput"
        v-model.trim="reason"
        maxlength="500"
        @keydown.esc="reasonFor = undefined"
      />
      <button class="button main" :disabled="!reason">Keep the reason</button>
      <button class="button" type="button" @click="reasonFor = undefined">Cancel</button>
    </form>
    <div v-else class="buttons" :class="{ many: panel.others.length + (ways > 1 ? 1 : 0) > 3 }">
      <button
        v-if="panel.primary"
        class="button main"
        type="button"
        :disabled="busy || !mayPass"
        data-part="primary"
        @click="act(panel.primary)"
      >
        {{ panel.primary.label }} <kbd>{{ panel.primary.key }}</kbd>
      </button>
      <button
        v-for="action in panel.others"
        :key="action.id"
        class="button"
        :class="{ main: !panel.primary && panel.name === 'press' }"
        type="button"
        :disabled="busy"
        @click="act(action)"
      >
        {{ action.label }} <kbd>{{ action.key }}</kbd>
      </button>
      <button v-if="ways > 1" class="button" type="button" @click="emit('another')">
        Another way <kbd>D</kbd>
      </button>
    </div>
  </section>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import type { Body } from '../../api/outbox'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { bareLength, plain, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** What to do now. */
  panel: Schemas['Panel']
  /** The finest step worth showing, mm. */
  res: number
  /** How many ways there are to do it. */
  ways: number
  /** Something is on its way; wait. */
  busy: boolean
}
const props = defineProps<Props>()
const emit = defineEmits<{ send: [bodies: Body[]]; another: [] }>()
const prefs = usePrefs()

/** The sentence as it is spoken when it changes. */
const said = computed(() => plain(props.panel.headline, prefs.unit, props.res))
const ticked = ref<string[]>([])
const gap = ref('')
const reason = ref('')
const reasonFor = ref<Schemas['Action']>()
const reasonInput = ref<HTMLInputElement>()
watch(
  () => props.panel.name,
  () => {
    ticked.value = []
    gap.value = ''
    reasonFor.value = undefined
  },
)

const long = computed(
  () => props.panel.headline.reduce((n, p) => n + (p.kind === 'words' ? p.text.length : 8), 0) > 90,
)
const mayPass = computed(
  () => !props.panel.hold || props.panel.cautions.every((c) => ticked.value.includes(c.id)),
)
/** Taps are a whole number, or were not counted. */
const tapsFit = computed(
  () =>
    props.panel.ask !== 'taps' ||
    !gap.value.trim() ||
    (/^\d{1,3}$/.test(gap.value.trim()) && Number(gap.value) >= 1 && Number(gap.value) <= 500),
)
const needle = (mm: number | null): string =>
  mm === null ? '–' : bareLength(mm, prefs.unit, props.res, props.panel.aim?.what !== 'gap')

function act(action: Schemas['Action']): void {
  if (action.needs_reason) {
    reasonFor.value = action
    reason.value = ''
    void nextTick(() => reasonInput.value?.focus())
    return
  }
  if (action === props.panel.primary && props.panel.ask === 'taps' && gap.value.trim()) {
    if (!tapsFit.value) return
    const taps = Number(gap.value)
    emit(
      'send',
      action.events.map((e) => (e.type === 'move_done' ? { ...e, taps } : e)),
    )
    gap.value = ''
    return
  }
  emit('send', [...action.events])
}

function giveReason(): void {
  const action = reasonFor.value
  if (!action || !reason.value) return
  const last = action.events.at(-1)
  emit('send', [...action.events.slice(0, -1), { ...last, reason: reason.value } as Body])
  reasonFor.value = undefined
}

function sendGap(event: KeyboardEvent): void {
  if (!gap.value.trim()) return
  if (props.panel.ask === 'taps') {
    event.stopPropagation()
    if (props.panel.primary) act(props.panel.primary)
    return
  }
  event.stopPropagation()
  emit('send', [{ type: 'gap_measured', typed: { text: gap.value.trim(), unit: prefs.unit } }])
  gap.value = ''
}

/** Keys that belong to the panel; true when one was used. */
function key(name: string): boolean {
  if (reasonFor.value || props.busy) return false
  const untick = props.panel.hold ? props.panel.cautions.filter((c) => !ticked.value.includes(c.id)) : []
  if (name === ' ' && untick[0]) {
    ticked.value = [...ticked.value, untick[0].id]
    return true
  }
  const numbered = props.panel.hold ? props.panel.cautions[Number(name) - 1] : undefined
  if (numbered) {
    ticked.value = ticked.value.includes(numbered.id)
      ? ticked.value.filter((id) => id !== numbered.id)
      : [...ticked.value, numbered.id]
    return true
  }
  const all = [...(props.panel.primary ? [props.panel.primary] : []), ...props.panel.others]
  const action = all.find((a) => a.key.toLowerCase() === name.toLowerCase())
  if (!action || (action === props.panel.primary && !mayPass.value)) return false
  act(action)
  return true
}
defineExpose({ key })
</script>

<style scoped>
.say {
  display: flex;
  flex-direction: column;
  gap: 12px;
  min-height: 0;
  padding: 16px 24px;
}
.words {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 12px;
  min-height: 0;
  overflow: auto;
}
.head {
  display: flex;
  gap: 14px;
  align-items: flex-start;
}
/* The ring alone: its word stands in the headline. */
.mark :deep(span) {
  display: none;
}
h1 {
  font-size: 33px;
  font-weight: 720;
  letter-spacing: -0.015em;
  line-height: 1.14;
}
h1.long {
  font-size: 26px;
}
.aim {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 10px 16px;
  border-radius: 8px;
  background: var(--brass-wash);
}
.aim svg {
  width: 110px;
}
.aim line {
  stroke: var(--brass);
  stroke-width: 4;
}
.aim path {
  fill: var(--brass);
}
.end {
  text-align: right;
}
.big {
  font-size: 40px;
  font-weight: 650;
  letter-spacing: -0.03em;
  line-height: 1.1;
}
.big small {
  font-size: 17px;
}
.gold {
  color: var(--brass-ink);
}
.why {
  color: var(--ink-2);
}
.cautions {
  display: grid;
  gap: 6px;
}
.cautions label {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 12px;
  min-height: 48px;
  padding: 6px 12px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--sheet);
  cursor: pointer;
}
.cautions input {
  width: 24px;
  height: 24px;
  accent-color: var(--plum);
}
.cautions p {
  padding-left: 12px;
  border-left: 4px solid var(--brass);
}
.ask {
  display: grid;
  gap: 6px;
}
.ask input {
  max-width: 220px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.buttons .main {
  flex: 1 1 100%;
}
.buttons .button:not(.main) {
  flex: 1 1 0;
  gap: 6px;
  min-width: max-content;
  padding: 0 9px;
  font-size: 15px;
}
.buttons.many .button:not(.main) {
  flex-direction: column;
  gap: 2px;
  min-width: 96px;
  padding: 4px 2px;
  line-height: 1.2;
  white-space: normal;
}
.ask.taps {
  display: flex;
  gap: 12px;
  align-items: center;
}
.ask.taps input {
  max-width: 90px;
}
.reason {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
}
.reason label,
.reason input {
  grid-column: 1 / -1;
}
</style>
