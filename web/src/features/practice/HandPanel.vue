<template>
  <div class="hands">
    <p v-if="now" class="what">
      In your hand: <b>{{ wordsOf(now) }}</b>. {{ HOW[now.control.kind] }}
    </p>
    <p v-else class="what">Nothing to take hold of here: it is read, and called by its name.</p>
    <div class="each" :class="{ small: hands.length > 4 }" role="radiogroup" aria-label="In your hand">
      <button
        v-for="hand in hands"
        :key="hand.control.id"
        type="button"
        class="hand"
        role="radio"
        :aria-checked="hand.control.id === now?.control.id"
        @click="emit('hold', hand.control.id)"
      >
        <b>{{ hand.control.label }}</b>
        <span class="soft small">{{ stateOf(hand) }}</span>
      </button>
    </div>
    <div
      v-if="now?.control.kind === 'key'"
      class="strip"
      @wheel.prevent="emit('turn', $event.deltaY > 0 ? -1 : 1)"
    >
      <button class="button" type="button" @click="emit('turn', -1)">
        {{ now.control.less }} <kbd>←</kbd>
      </button>
      <span class="num soft">{{ turned }}</span>
      <button class="button" type="button" @click="emit('turn', 1)">
        {{ now.control.more }} <kbd>→</kbd>
      </button>
      <button class="button" type="button" :disabled="!held" @click="emit('release')">
        Let go <kbd>Esc</kbd>
      </button>
    </div>
    <div v-else-if="now?.control.kind === 'tap'" class="strip">
      <button class="button" type="button" @click="emit('tap', false)">Light tap <kbd>Space</kbd></button>
      <button class="button" type="button" @click="emit('tap', true)">Hard <kbd>Shift+Space</kbd></button>
    </div>
    <div v-else-if="now" class="strip">
      <button class="button" type="button" @click="emit('pick', -1)">Before <kbd>←</kbd></button>
      <b class="num">{{ now.control.choices[picked]?.words }}</b>
      <button class="button" type="button" @click="emit('pick', 1)">Next <kbd>→</kbd></button>
      <button class="button" type="button" :disabled="picked === now.picked" @click="emit('release')">
        Put it in <kbd>Esc</kbd>
      </button>
    </div>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

type Hand = Schemas['InHand']
interface Props {
  /** All that can be taken hold of. */
  hands: readonly Hand[]
  /** The one in the hand. */
  now: Hand | undefined
  /** How far its key was turned since it was taken hold of, mm. */
  held: number
  /** The choice that is looked at, and not put in yet. */
  picked: number
}
const props = defineProps<Props>()
const emit = defineEmits<{
  hold: [id: string]
  turn: [notches: number]
  tap: [hard: boolean]
  pick: [by: number]
  release: []
}>()
const HOW = {
  key: 'Turn it with ← →, or roll; Shift for more.',
  tap: 'Space taps, Shift+Space hits hard.',
  pick: '← → looks through the drawer, Esc puts it in.',
}

const wordsOf = (hand: Hand): string =>
  hand.control.kind === 'key'
    ? `the key, in ${hand.control.label.toLowerCase()}`
    : hand.control.kind === 'tap'
      ? `the soft hammer, ${hand.control.label.toLowerCase()}`
      : hand.control.label.toLowerCase()

/** A key’s turn in degrees; a full turn and more in turns. */
function degrees(hand: Hand, mm: number): string {
  const deg = (mm / hand.control.step_mm) * hand.control.turn_deg
  if (!deg) return 'as found'
  return `${Math.round(Math.abs(deg) * 2) / 2}° ${deg > 0 ? hand.control.more : hand.control.less}`
}
function stateOf(hand: Hand): string {
  if (hand.control.kind === 'key') return degrees(hand, hand.turned_mm)
  return hand.control.kind === 'pick' ? (hand.control.choices[hand.picked]?.words ?? '') : ''
}
const turned = computed(() => (props.now ? (props.held ? degrees(props.now, props.held) : 'not turned') : ''))
</script>

<style scoped>
.hands {
  display: grid;
  gap: 8px;
}
.what {
  color: var(--ink-2);
}
.each {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 8px;
}
.hand {
  display: grid;
  gap: 1px;
  min-height: 56px;
  padding: 6px 8px;
  border: 1.5px solid var(--rule);
  border-radius: 8px;
  background: var(--sheet);
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.small .hand {
  min-height: 48px;
  font-size: var(--type-least);
}
.hand[aria-checked='true'] {
  border: 3px solid var(--plum);
  padding: 4.5px 6.5px;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  min-height: 56px;
  padding: 4px 8px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--well);
}
.strip .button {
  min-height: 48px;
  padding: 0 12px;
}
.strip .num {
  min-width: 112px;
  text-align: center;
}
@media (max-width: 1100px) and (orientation: landscape) {
  .what {
    display: none;
  }
}
</style>
