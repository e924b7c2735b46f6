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

      <AimBox :panel="panel" :res="res" />

      <CautionList v-model="ticked" :cautions="panel.cautions" :hold="panel.hold" />

      <AskBox v-if="panel.ask !== 'nothing'" ref="asked" :panel="panel" :fault="fault" @done="actPrimary" />

      <RichText
        v-for="(line, index) in panel.why"
        :key="index"
        tag="p"
        class="why"
        :parts="line"
        :resolution-mm="res"
      />
    </div>

    <ReasonForm
      v-if="reasonFor"
      :label="reasonFor.label"
      @give="giveReason"
      @cancel="reasonFor = undefined"
    />
    <PanelButtons
      v-else
      :panel="panel"
      :ways="ways"
      :busy="busy"
      :may-pass="mayPass"
      @act="act"
      @another="emit('another')"
    />
  </section>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import type { Body } from '../../api/outbox'
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { plain } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import AimBox from './AimBox.vue'
import AskBox from './AskBox.vue'
import CautionList from './CautionList.vue'
import PanelButtons from './PanelButtons.vue'
import ReasonForm from './ReasonForm.vue'

interface Props {
  /** What to do now. */
  panel: Schemas['Panel']
  /** The finest step worth showing, mm. */
  res: number
  /** How many ways there are to do it. */
  ways: number
  /** Something is on its way; wait. */
  busy: boolean
  /** What is wrong with what it asked to measure. */
  fault?: string
}
const props = withDefaults(defineProps<Props>(), { fault: '' })
const emit = defineEmits<{ send: [bodies: Body[]]; another: [] }>()
const prefs = usePrefs()

/** The sentence as it is spoken when it changes. */
const said = computed(() => plain(props.panel.headline, prefs.unit, props.res))
const ticked = ref<string[]>([])
const asked = ref<InstanceType<typeof AskBox>>()
const reasonFor = ref<Schemas['Action']>()
watch(
  () => props.panel.name,
  () => {
    ticked.value = []
    reasonFor.value = undefined
  },
)

const long = computed(
  () => props.panel.headline.reduce((n, p) => n + (p.kind === 'words' ? p.text.length : 8), 0) > 72,
)
const mayPass = computed(
  () => !props.panel.hold || props.panel.cautions.every((c) => ticked.value.includes(c.id)),
)
function act(action: Schemas['Action']): void {
  if (action.needs_reason) {
    reasonFor.value = action
    return
  }
  const box = action === props.panel.primary ? asked.value : undefined
  const bodies = box ? box.bodies(action) : [...action.events]
  if (bodies) emit('send', bodies)
}

function giveReason(reason: string): void {
  const action = reasonFor.value
  if (!action) return
  const last = action.events.at(-1)
  emit('send', [...action.events.slice(0, -1), { ...last, reason } as Body])
  reasonFor.value = undefined
}

function actPrimary(): void {
  if (props.panel.primary && !props.busy && mayPass.value) act(props.panel.primary)
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
  gap: 9px;
  min-height: 0;
  overflow: auto;
  /* A shade at the end below which there is more; the end itself, when it is reached, lies over it. */
  background:
    linear-gradient(transparent, var(--ground) 70%) bottom / 100% 30px no-repeat local,
    linear-gradient(transparent, color-mix(in srgb, var(--edge) 40%, transparent)) bottom / 100% 10px
      no-repeat;
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
  font-size: var(--type-big);
  font-weight: 720;
  letter-spacing: -0.015em;
  line-height: 1.14;
}
@media (max-width: 1100px) and (orientation: landscape) {
  h1 {
    font-size: var(--type-head);
  }
}
h1.long {
  font-size: var(--type-head);
}
.why {
  color: var(--ink-2);
  line-height: 1.35;
}
</style>
