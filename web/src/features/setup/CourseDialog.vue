<template>
  <el-dialog
    :model-value="run.open.value"
    :title="round ? 'Turn it slowly' : 'Run it along'"
    width="820px"
    append-to-body
    :close-on-click-modal="false"
    @opened="body?.focus()"
    @close="run.drop()"
  >
    <div ref="body" class="course" tabindex="-1" @keydown="onKey">
      <p class="how"><RichText v-if="course" :parts="course.how" :resolution-mm="res" /></p>
      <div class="shows" :class="needle?.state">
        <p class="num now">
          {{ needle?.mm == null ? '–' : bareLength(needle.mm, prefs.unit, res, true) }}
          <small>{{ unitWord(prefs.unit) }}</small>
        </p>
        <p v-if="run.stage.value === 'running'" class="so-far" data-part="so-far">
          {{ round ? 'TIR' : 'High to low' }} so far
          <b class="num">{{ formatLength(high - low, prefs.unit, res) }}</b><br />
          {{ run.marks.value }} {{ run.marks.value === 1 ? 'mark' : 'marks'
          }}<template v-if="passed"> of {{ passed }}</template>
        </p>
      </div>
      <div v-if="found" class="told" role="status">
        <p class="lead"><RichText :parts="found.told" :resolution-mm="res" /></p>
        <p v-for="(note, i) in found.notes" :key="i"><RichText :parts="note" :resolution-mm="res" /></p>
      </div>
      <p v-if="run.fault.value" class="fault" role="alert">{{ run.fault.value }}</p>
    </div>
    <template #footer>
      <div class="ways">
        <button class="button" type="button" @click="run.drop()">Leave it <kbd>Esc</kbd></button>
        <template v-if="run.stage.value === 'ready'">
          <button class="button main" type="button" :disabled="run.busy.value" @click="begin(false)">
            Standing at {{ first }}: begin <kbd>Space</kbd>
          </button>
        </template>
        <template v-else-if="run.stage.value === 'running'">
          <button class="button" type="button" @click="run.mark($event.timeStamp)">
            {{ markWord }} <kbd>Space</kbd>
          </button>
          <button class="button main" type="button" :disabled="run.busy.value" @click="run.end()">
            {{ round || run.marks.value ? `Back at ${first}` : 'At the far end' }} <kbd>Enter</kbd>
          </button>
        </template>
        <template v-else-if="found">
          <button
            v-for="turns in found.turns"
            :key="turns"
            class="button"
            type="button"
            @click="run.end(turns)"
          >
            It was {{ turns === 1 ? '1 turn' : `${turns} turns` }}
          </button>
          <button class="button" :class="{ main: !found.sure }" type="button" @click="begin(true)">
            {{ round ? 'Turn it once more' : 'Run along once more' }} <kbd>Space</kbd>
          </button>
          <button
            class="button"
            :class="{ main: found.sure }"
            type="button"
            :disabled="found.turns.length > 0"
            @click="run.keep()"
          >
            Take these {{ run.out.value?.readings.length }} readings <kbd>Enter</kbd>
          </button>
        </template>
      </div>
    </template>
  </el-dialog>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import RichText from '../../shared/components/RichText.vue'
import { bareLength, formatLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import type { Needle } from '../../shared/useNeedles'
import type { useCourse } from './useCourse'

interface Props {
  /** What is turned or run along. */
  run: ReturnType<typeof useCourse>
  /** What the needle shows now. */
  needle: Needle | undefined
  /** The spot that it begins at. */
  first: string
  /** The finest step worth showing, mm. */
  res: number
}
const props = defineProps<Props>()
const prefs = usePrefs()
const body = ref<HTMLElement>()
/** Highest and lowest since it was begun. */
const high = ref(0)
const low = ref(0)

const course = computed(() => props.run.course.value)
const round = computed(() => course.value?.way !== 'along')
const passed = computed(() => course.value?.passed.length ?? 0)
const found = computed(() => (props.run.stage.value === 'told' ? props.run.out.value?.found : undefined))
const markWord = computed(() => {
  const names = course.value?.passed ?? []
  if (!names.length) return `${props.first} passes`
  const next = [...names, ...(round.value ? [props.first] : [])]
  const name = next[props.run.marks.value % next.length]
  return round.value ? `${name} passes` : `At ${name}`
})

async function begin(more: boolean): Promise<void> {
  high.value = low.value = props.needle?.mm ?? 0
  await props.run.begin(more)
  body.value?.focus()
}
watch(
  () => props.needle?.mm,
  (mm) => {
    if (mm == null || props.run.stage.value !== 'running') return
    high.value = Math.max(high.value, mm)
    low.value = Math.min(low.value, mm)
  },
)

/** Space, and a pedal that sends one, does the next thing; Enter ends it, or takes what was told. */
function onKey(event: KeyboardEvent): void {
  if (event.repeat || (event.key !== ' ' && event.key !== 'Enter')) return
  event.preventDefault()
  const { run } = props
  const space = event.key === ' '
  if (run.stage.value === 'ready') void begin(false)
  else if (run.stage.value === 'running') void (space ? run.mark(event.timeStamp) : run.end())
  else if (space) void begin(true)
  else if (!found.value?.turns.length) void run.keep()
}
</script>

<style scoped>
.course {
  display: grid;
  gap: 12px;
  outline: none;
}
.course p {
  margin: 0;
}
.how {
  font-size: var(--type-lead, 18px);
}
.shows {
  display: flex;
  gap: 28px;
  align-items: center;
  min-height: 92px;
  padding: 6px 18px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--sheet);
}
.shows .now {
  min-width: 7ch;
  font-size: 56px;
  font-weight: 700;
  line-height: 1.1;
}
.shows small {
  font-size: var(--type-least);
}
.shows.stale .now,
.shows.gone .now {
  color: var(--ink-2);
  text-decoration: line-through;
}
.told {
  display: grid;
  gap: 8px;
}
.lead {
  font-weight: 700;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  justify-content: flex-end;
}
</style>
