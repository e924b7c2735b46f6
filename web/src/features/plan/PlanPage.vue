<template>
  <main class="plan">
    <el-form label-position="top" class="form" @submit.prevent="open">
      <h1>Plan a set-up</h1>
      <el-form-item label="What is to be done" :error="fault('procedure')" class="what">
        <el-select v-model="form.procedure" aria-label="What is to be done">
          <el-option
            v-for="p in procedures.data.value?.procedures"
            :key="p.id"
            :label="p.title"
            :value="p.id"
          />
        </el-select>
      </el-form-item>

      <div class="two">
        <el-form-item label="Machine" :error="fault('machine_id')">
          <el-select v-model="form.machine_id" aria-label="Machine">
            <el-option v-for="m in machines" :key="m.id" :label="m.name" :value="m.id" />
          </el-select>
          <ToldHere :told="told" field="machine_id" />
        </el-form-item>
        <el-form-item label="Held in" :error="fault('holder_id')">
          <el-select v-model="form.holder_id" aria-label="Held in" no-data-text="None in the Shop yet">
            <el-option v-for="h in holders" :key="h.id" :label="h.name" :value="h.id" />
          </el-select>
          <ToldHere :told="told" field="holder_id" />
        </el-form-item>
      </div>
      <div class="two">
        <el-form-item label="Part" :error="fault('part.name')">
          <el-input
            ref="partInput"
            v-model="form.part"
            maxlength="120"
            aria-label="Part"
            placeholder="Inking drum core, end A"
          />
        </el-form-item>
        <el-form-item :label="asks?.diameter ?? 'Diameter'" :error="fault('part.diameter')">
          <el-input
            v-model="form.diameter"
            :aria-label="asks?.diameter ?? 'Diameter'"
            placeholder='62 mm, or 2.440"'
          />
        </el-form-item>
      </div>
      <div class="two">
        <el-form-item label="Gauge" :error="fault('gauge_id')">
          <el-select v-model="form.gauge_id" aria-label="Gauge">
            <el-option v-for="g in gauges" :key="g.id" :label="g.name" :value="g.id" />
          </el-select>
          <ToldHere :told="told" field="gauge_id" />
        </el-form-item>
        <el-form-item label="True within" :error="fault('limit.typed') || fault('limit.kind')">
          <div class="limit">
            <el-input
              v-model="form.limit"
              aria-label="True within"
              :placeholder="prefs.unit === 'mm' ? '0.02' : '1'"
            />
            <el-select
              v-if="(asks?.limit_kinds.length ?? 0) > 3"
              v-model="form.kind"
              aria-label="Kind of limit"
            >
              <el-option
                v-for="kind in asks?.limit_kinds"
                :key="kind"
                :value="kind"
                :label="kindWord(kind)"
              />
            </el-select>
            <el-radio-group v-else v-model="form.kind" aria-label="Kind of limit">
              <el-radio-button v-for="kind in asks?.limit_kinds" :key="kind" :value="kind">
                {{ kind === 'throw' ? 'off the throw' : kindWord(kind) }}
              </el-radio-button>
            </el-radio-group>
          </div>
          <p class="hint">{{ limitHint }}</p>
          <ToldHere :told="told" field="limit.typed" />
        </el-form-item>
      </div>

      <div v-if="procedure?.fields.length" class="two">
        <ProcedureField
          v-for="field in procedure.fields"
          :key="`${procedure.id} ${field.name}`"
          :field="field"
          :model-value="startOf(field, form)"
          :shop="shop.data.value"
          :error="fault(`choices.${field.name}`)"
          :told="told"
          @update:model-value="form.choices[field.name] = $event"
        />
      </div>

      <div class="two">
        <el-form-item v-if="asks?.surface" label="The gauge is on" :error="fault('part.surface')">
          <el-radio-group v-model="form.surface">
            <el-radio-button value="outside">the outside</el-radio-button>
            <el-radio-button value="inside">a bore</el-radio-button>
          </el-radio-group>
        </el-form-item>
        <el-form-item v-if="asks?.place" label="Gauge stands">
          <el-select v-model="form.place" aria-label="Gauge stands">
            <el-option v-for="p in PLACES" :key="p.id" :label="p.word" :value="p.id" />
          </el-select>
        </el-form-item>
        <el-form-item v-if="asks?.presets.length" label="Where to read" :error="fault('stations_deg')">
          <el-radio-group v-model="form.stations">
            <el-radio-button v-for="p in asks?.presets" :key="p.id" :value="p.id">{{
              p.word
            }}</el-radio-button>
            <el-radio-button value="own">own angles</el-radio-button>
          </el-radio-group>
          <el-input
            v-if="form.stations === 'own'"
            v-model="form.own"
            class="own"
            aria-label="Angles from jaw 1"
            placeholder="0 60 120 180 240 300"
          />
          <p class="hint">{{ stationHint }}</p>
          <ToldHere :told="told" field="stations_deg" />
        </el-form-item>
        <el-form-item v-if="asks?.schools.length" label="Way of working">
          <el-radio-group v-model="form.school">
            <el-radio-button value="high_spot">both pairs at once</el-radio-button>
            <el-radio-button value="pairs">pair by pair</el-radio-button>
          </el-radio-group>
          <p class="hint">{{ SCHOOL_HINT[form.school] }}</p>
        </el-form-item>
        <el-form-item v-if="lever" label="Stylus to the surface, degrees" :error="fault('stylus_deg')">
          <el-input
            v-model="form.stylus"
            aria-label="Stylus to the surface, degrees"
            placeholder="12 or less"
          />
          <p class="hint">Steeper than 12° the dial reads too much; typed here, that is taken out.</p>
          <ToldHere :told="told" field="stylus_deg" />
        </el-form-item>
        <el-form-item v-if="asks?.view" label="Picture seen">
          <el-radio-group v-model="form.view">
            <el-radio-button value="tailstock">from the tailstock</el-radio-button>
            <el-radio-button value="operator">me at the bottom</el-radio-button>
          </el-radio-group>
        </el-form-item>
      </div>
    </el-form>

    <aside>
      <section>
        <h2 class="label">To know before you start</h2>
        <p v-if="!checked" class="soft">Fill in part, diameter and limit.</p>
        <template v-else>
          <p v-if="!told.length" class="fine">Nothing against it.</p>
          <p v-else>
            {{
              told.length === 1
                ? 'One thing to know. It stands at its field.'
                : `${told.length} things to know. They stand at their fields.`
            }}
          </p>
        </template>
        <p v-if="general" class="fault" role="alert">{{ general }}</p>
      </section>
      <section v-if="procedure" class="needs">
        <h2 class="label">What it needs</h2>
        <p v-for="(words, what) in procedure.needs" :key="what">{{ words }}</p>
      </section>
      <button class="button main" type="button" :disabled="sending" @click="open">
        Open the set-up <kbd>Ctrl Enter</kbd>
      </button>
    </aside>
  </main>
</template>

<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask, complaintOf, Refused, type Problem, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { kindWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'
import ToldHere from './ToldHere.vue'
import ProcedureField from './ProcedureField.vue'
import { emptyForm, planOf, PLACES, SCHOOL_HINT, startOf } from './form'

const route = useRoute()
const router = useRouter()
const prefs = usePrefs()
const shop = useLatest(() => ask(api.GET('/api/shop')))
const procedures = useLatest(() => ask(api.GET('/api/procedures')))
void procedures.run()
const form = reactive(emptyForm())
form.machine_id = typeof route.query.machine === 'string' ? route.query.machine : ''
form.holder_id = typeof route.query.holder === 'string' ? route.query.holder : ''
const procedure = computed(() => procedures.data.value?.procedures.find((p) => p.id === form.procedure))
const asks = computed(() => procedure.value?.asks)
const machines = computed(() =>
  (shop.data.value?.machines ?? []).filter((m) => procedure.value?.machine_kinds.includes(m.kind)),
)
const holders = computed(() =>
  (shop.data.value?.holders ?? []).filter((h) => procedure.value?.holder_kinds.includes(h.kind)),
)
const gauges = computed(() =>
  (shop.data.value?.gauges ?? []).filter((g) => asks.value?.gauges.includes(g.kind)),
)
const lever = computed(() => gauges.value.find((g) => g.id === form.gauge_id)?.kind === 'lever')
const limitHint = computed(() => {
  if (form.kind === 'angle') return 'Degrees of slant.'
  const twice = form.kind === 'tir' || form.kind === 'off_centre' ? ' TIR is twice off center.' : ''
  return `${unitWord(prefs.unit)} unless you type a unit.${twice}`
})
const stationHint = computed(
  () =>
    asks.value?.presets.find((p) => p.id === form.stations)?.hint ??
    'Degrees from number 1, counter-clockwise seen from the tailstock, with spaces between.',
)
void shop.run()
watch([shop.data, procedures.data], ([found, known]) => {
  if (!found || !known) return
  const held = found.holders.find((h) => h.id === form.holder_id)
  const stands = found.machines.find((m) => m.id === form.machine_id)
  const here = known.procedures.filter((p) => !stands || p.machine_kinds.includes(stands.kind))
  const fits = here.find((p) => held && p.holder_kinds.includes(held.kind)) ?? here[0]
  const now = procedure.value
  if (fits && !(now && here.includes(now) && (!held || now.holder_kinds.includes(held.kind))))
    form.procedure = fits.id
  choose()
})
watch(() => form.procedure, choose)

/** What does not go with the procedure gives way to the first that does. */
function choose(): void {
  const first = (from: readonly { id: string }[], now: string): string =>
    from.some((one) => one.id === now) ? now : (from[0]?.id ?? '')
  form.machine_id = first(machines.value, form.machine_id)
  form.holder_id = first(holders.value, form.holder_id)
  form.gauge_id = first(gauges.value, form.gauge_id)
  const kinds = asks.value?.limit_kinds ?? []
  form.kind = kinds.find((k) => k === form.kind) ?? kinds[0] ?? 'tir'
  const presets = asks.value?.presets ?? []
  if (presets.length && form.stations !== 'own') form.stations = first(presets, form.stations)
  for (const field of procedure.value?.fields ?? []) {
    const shelf = field.kind === 'shims' || field.kind === 'dowels' ? shop.data.value?.stock : undefined
    const drawer = shelf?.find((s) => s.kind === field.kind)
    if (drawer) form.choices[field.name] ??= drawer.id
  }
}

const partInput = ref<{ focus: () => void }>()
const problem = ref<Problem>()
const told = ref<Schemas['Caveat'][]>([])
const checked = ref(false)
const asked = ref(false)
const sending = ref(false)
const general = ref('')
const ids = { setup: uuid(), event: uuid() }

function fault(field: string): string {
  const found = problem.value?.errors.find((e) => e.field.replace(/^plan\./, '').startsWith(field))
  return found ? `${found.detail} ${found.fix}`.trim() : ''
}

let calls = 0
let timer: ReturnType<typeof setTimeout> | undefined
async function check(): Promise<void> {
  const mine = ++calls
  try {
    const answer = await ask(
      api.POST('/api/plans/check', { body: planOf(form, prefs.unit, procedure.value) }),
    )
    if (mine !== calls) return
    told.value = answer.told
    checked.value = true
    problem.value = undefined
    general.value = ''
  } catch (error) {
    if (mine !== calls) return
    take(error)
  }
}
function take(error: unknown): void {
  checked.value = false
  told.value = []
  const complaint = complaintOf(error)
  problem.value = error instanceof Refused ? error.problem : undefined
  const placed = problem.value?.errors.some((e) => e.field)
  general.value = placed ? '' : `${complaint.detail} ${complaint.fix}`
}
watch([form, () => prefs.unit], () => {
  ids.setup = uuid() // another plan is another set-up, also when the first was sent and its answer lost
  ids.event = uuid()
  clearTimeout(timer)
  const filled = form.part.trim() && form.diameter.trim() && form.limit.trim()
  if (filled || asked.value) timer = setTimeout(() => void check(), 250)
})

async function open(): Promise<void> {
  asked.value = true
  sending.value = true
  try {
    const body = {
      id: ids.setup,
      event_id: ids.event,
      at: new Date().toISOString(),
      author: prefs.author,
      plan: planOf(form, prefs.unit, procedure.value),
    }
    const view = await ask(api.POST('/api/setups', { body }))
    await router.push(`/set-up/${view.id}`)
  } catch (error) {
    take(error)
  } finally {
    sending.value = false
  }
}

function onKey(event: KeyboardEvent): void {
  if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return
  event.stopPropagation() // a list that has the focus would take Enter for itself
  event.preventDefault()
  void open()
}
onMounted(() => {
  partInput.value?.focus()
  document.addEventListener('keydown', onKey, true)
})
onBeforeUnmount(() => document.removeEventListener('keydown', onKey, true))
</script>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  min-height: 0;
}
.form {
  padding: 18px 28px;
  overflow: auto;
}
h1 {
  font-size: 26px;
}
.what {
  max-width: 560px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 20px;
}
.form > p {
  margin-bottom: 10px;
}
.form :deep(.el-form-item) {
  margin-bottom: 12px;
}
.form :deep(.el-form-item__label) {
  margin-bottom: 4px;
  line-height: 1.3;
}
.limit {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  width: 100%;
}
.limit .el-select {
  width: 230px;
}
.hint {
  width: 100%;
  color: var(--ink-2);
  font-size: 14px;
  line-height: 1.35;
}
.own {
  margin-top: 8px;
}
aside {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  gap: 24px;
  padding: 22px 24px;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  overflow: auto;
}
.needs {
  flex: 1;
}
.needs p {
  margin-top: 8px;
}
.fine {
  margin-top: 8px;
  color: var(--holds);
  font-weight: 650;
}
</style>
