<template>
  <component
    :is="now ? 'div' : 'button'"
    class="cell"
    :class="[item.cell.state, { now, many, waits: item.waiting }]"
    :type="now ? undefined : 'button'"
    :disabled="now ? undefined : !active"
    :data-station="item.cell.label"
    @click="emit('choose')"
  >
    <span class="head">
      <span>{{ item.cell.short }}</span>
      <RichText v-if="!many" :parts="item.cell.at" :resolution-mm="res" />
    </span>
    <input
      v-if="now"
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
      @keydown.enter="emit('enter', $event)"
      @focus="field?.select()"
    />
    <span v-else class="value num">{{ shownIn(item, prefs.unit, res) }}</span>
    <span class="foot">
      <span v-if="item.waiting && !item.waiting.problem" class="waits">waiting</span>
      <span v-else-if="aimMm !== null" class="aims">
        {{ small ? 'to' : 'aim' }}
        <span class="num">{{ bareLength(aimMm, prefs.unit, res, item.cell.reads === 'needle') }}</span>
      </span>
      <span v-else-if="!many && item.cell.true_mm !== null && !item.cell.note.length">
        true at
        <span class="num">{{
          bareLength(item.cell.true_mm, prefs.unit, res, item.cell.reads === 'needle')
        }}</span>
      </span>
      <RichText v-else-if="!(many && item.cell.closing)" :parts="item.cell.note" :resolution-mm="res" />
    </span>
  </component>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import RichText from '../components/RichText.vue'
import { bareLength } from '../format'
import { usePrefs } from '../prefs'
import { shownIn, type TrayCell } from './cells'

interface Props {
  /** A station of the pass, with what waits for it. */
  item: TrayCell
  /** Is it typed into? */
  now: boolean
  /** Are there so many that each is small? */
  many: boolean
  /** Is there no room to make those with more to say a little wider? */
  small: boolean
  /** Can readings be taken now? */
  active: boolean
  /** Where the needle has to stop, if the move is watched here. */
  aimMm: number | null
  /** The finest step worth showing, mm. */
  res: number
}
defineProps<Props>()
const emit = defineEmits<{ enter: [event: KeyboardEvent]; choose: [] }>()
/** What is typed into the cell of now. */
const typed = defineModel<string>({ required: true })
const prefs = usePrefs()
const field = ref<HTMLInputElement>()
defineExpose({ focus: () => field.value?.focus({ preventScroll: true }) })
</script>

<style scoped>
.cell {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  min-height: 104px;
  padding: 7px 8px;
  border: 1.5px solid var(--rule);
  border-radius: 8px;
  background: var(--ground);
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.many {
  min-height: 46px;
  padding: 1px 5px;
}
.many.now {
  padding: 0 3.5px;
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
  font-size: var(--type-least);
  font-weight: 600;
  line-height: 1.2;
}
.many .head {
  letter-spacing: -0.02em;
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
  font-size: var(--type-least);
  line-height: 1.2;
}
.many .foot {
  min-height: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  letter-spacing: -0.03em;
}
.many.now .foot:empty {
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
</style>
