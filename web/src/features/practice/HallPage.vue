<template>
  <main class="hall">
    <div class="all">
      <h1>Practice</h1>
      <p class="soft">
        A hidden machine: nothing shows by eye, only the needle tells. Nothing done here touches the Logbook,
        or what is remembered of your holders.
      </p>
      <fieldset class="advice">
        <legend class="label">Advice</legend>
        <el-radio-group v-model="advice" aria-label="Advice">
          <el-radio-button value="off">off</el-radio-button>
          <el-radio-button value="asked">when I ask</el-radio-button>
          <el-radio-button value="full">full</el-radio-button>
        </el-radio-group>
      </fieldset>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <template v-if="data">
        <h2>Drills, each made for one mistake</h2>
        <ul class="drills">
          <li v-for="drill in data.drills" :key="drill.id">
            <button class="drill" type="button" :disabled="busy" @click="begin(drill.id)">
              <b>{{ drill.title }}</b>
              <span class="small">{{ drill.lures }}</span>
              <span class="soft small">{{ stateOf(drill.id) }}</span>
            </button>
          </li>
        </ul>
      </template>
    </div>
    <aside v-if="data" class="side-by">
      <section v-if="next" class="next">
        <h2>Next for you</h2>
        <p>
          <b>{{ next.title }}</b><template v-if="why">, {{ why }}</template
          >.
        </p>
        <button ref="nextButton" class="button main" type="button" :disabled="busy" @click="begin(next.id)">
          Begin <kbd>Enter</kbd>
        </button>
        <RouterLink v-if="data.going" class="button" :to="`/practice/${data.going.id}`">
          Go on with “{{ data.going.title }}”
        </RouterLink>
      </section>
      <section>
        <h2>Or any machine</h2>
        <el-select v-model="chosen" class="machines" aria-label="Machine">
          <el-option v-for="one in data.machines" :key="one.id" :value="one.id" :label="one.title" />
        </el-select>
        <span v-if="machine" class="levels">
          <button
            v-for="level in machine.levels"
            :key="level.id"
            class="button"
            type="button"
            :aria-label="`${machine.title}, ${level.words}`"
            :disabled="busy"
            @click="begin(`${machine.id}.${level.id}`)"
          >
            {{ level.words }}
          </button>
        </span>
      </section>
      <section>
        <h2>Watch two ways of working</h2>
        <RouterLink class="button" to="/practice/schools">Both pairs, or pair by pair</RouterLink>
      </section>
      <section>
        <h2>Two minutes to square a vise</h2>
        <ol v-if="data.record.board.length" class="board">
          <li v-for="(one, index) in data.record.board" :key="index">
            <b class="num">{{ clock(one.seconds) }}</b> {{ one.passes }} passes,
            <span class="soft">{{ formatDate(one.ended_at) }}</span>
          </li>
        </ol>
        <p v-else class="soft">No time of yours stands here yet.</p>
      </section>
    </aside>
  </main>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { api, ask, complaintOf, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { formatDate } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useBegin } from '../../shared/useBegin'
import { clock } from './clock'

const prefs = usePrefs()
const beginIt = useBegin()
const data = shallowRef<Schemas['HallOut']>()
const advice = ref<Schemas['BeginIn']['advice']>('asked')
const fault = ref('')
const busy = ref(false)
const nextButton = ref<HTMLButtonElement>()

async function load(): Promise<void> {
  try {
    data.value = await ask(api.GET('/api/practice', { params: { query: { author: prefs.author } } }))
    fault.value = ''
    void nextTick(() => nextButton.value?.focus({ preventScroll: true }))
  } catch (error) {
    fault.value = complaintOf(error).detail
  }
}
watch(() => prefs.author, load, { immediate: true })

const standing = (id: string): Schemas['Standing'] | undefined =>
  data.value?.record.standings.find((one) => one.drill === id)
const chosen = ref('four_jaw')
const machine = computed(() => data.value?.machines.find((one) => one.id === chosen.value))
const next = computed(() => data.value?.drills.find((drill) => drill.id === data.value?.record.next))
const why = computed(() => (next.value ? standing(next.value.id)?.why : ''))
function stateOf(id: string): string {
  const one = standing(id)
  if (!one?.tries) return 'not tried yet'
  const best = one.best_seconds === null ? '' : `, best ${clock(one.best_seconds)}`
  return `${one.good} of ${one.tries} good${best}${one.due ? `; due: ${one.why}` : ''}`
}

const id = uuid()
async function begin(drill: string): Promise<void> {
  busy.value = true
  try {
    await beginIt({ drill, advice: advice.value }, id)
  } catch (error) {
    fault.value = complaintOf(error).detail
  } finally {
    busy.value = false
  }
}
</script>

<style scoped>
.hall {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  min-height: 0;
}
.all {
  padding: 18px 28px;
  overflow: auto;
}
h1 {
  font-size: var(--type-head);
}
h2 {
  margin: 0 0 8px;
  font-size: var(--type-lead);
}
.advice {
  margin: 12px 0 16px;
  padding: 0;
  border: 0;
}
.drills {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.drill {
  display: grid;
  gap: 3px;
  align-content: start;
  width: 100%;
  height: 100%;
  padding: 10px 14px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.side-by {
  display: grid;
  gap: 24px;
  align-content: start;
  padding: 18px 24px;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  overflow: auto;
}
.next .button {
  margin: 8px 8px 0 0;
}
.levels {
  margin-top: 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.levels .button {
  min-height: 48px;
  padding: 0 12px;
}
.board {
  margin: 0;
  padding-left: 20px;
}
@media (max-width: 1000px) {
  .drills {
    grid-template-columns: 1fr;
  }
  .hall {
    grid-template-columns: minmax(0, 1fr) 372px;
  }
}
.machines :deep(.el-select__wrapper) {
  font-size: var(--type-least); /* the longest job's name is to be read whole */
}
</style>
