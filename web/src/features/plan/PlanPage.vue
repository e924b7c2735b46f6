<template>
  <main class="plan">
    <el-form label-position="top" class="form" @submit.prevent="open">
      <h1>{{ again ? 'The same again' : 'Plan a set-up' }}</h1>
      <HandOver v-if="part.job" v-bind="part" />
      <p v-if="before.fault.value" class="fault" role="alert">{{ before.fault.value.detail }}</p>
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
        <el-form-item :label="asks?.part ?? 'Part'" :error="fault('part.name')">
          <el-input
            ref="partInput"
            v-model="form.part"
            maxlength="120"
            :aria-label="asks?.part ?? 'Part'"
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
        <el-form-item label="Indicator" :error="fault('gauge_id')">
          <el-select v-model="form.gauge_id" aria-label="Indicator">
            <el-option v-for="g in gauges" :key="g.id" :label="g.name" :value="g.id" />
          </el-select>
          <ToldHere :told="told" field="gauge_id" />
        </el-form-item>
        <LimitField v-model:form="form" :kinds="asks?.limit_kinds ?? []" :told="told" :fault="fault" />
      </div>

      <AsLastTime
        v-if="last.at.value"
        :at="last.at.value"
        :fields="folded ? (procedure?.fields ?? []) : []"
        :typed="form.choices"
        :names="names"
        @change="unfold"
      />
      <div v-if="procedure?.fields.length && !folded" ref="choices" class="two">
        <EdgePicture v-if="edge" v-bind="edge" :fault="fault" :told="told" @choose="last.choose" />
        <ProcedureField
          v-for="field in asked"
          :key="`${procedure.id} ${field.name}`"
          :field="field"
          :model-value="startOf(field, form)"
          :shop="shop.data.value"
          :error="fault(`choices.${field.name}`)"
          :told="told"
          @update:model-value="last.choose(field.name, $event)"
        />
      </div>

      <HowRead v-model:form="form" :asks="asks" :lever="lever" :told="told" :fault="fault" />
    </el-form>

    <PlanAside
      :checked="checked"
      :told="told"
      :expect="expect"
      :general="general"
      :needs="procedure?.needs"
      :sending="sending"
      @open="open"
      @sheet="sheet"
    />
  </main>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask } from '../../api/client'
import { useLatest } from '../../shared/useLatest'
import AsLastTime from './AsLastTime.vue'
import EdgePicture from './EdgePicture.vue'
import { useEdge } from './edge'
import HandOver from './HandOver.vue'
import HowRead from './HowRead.vue'
import LimitField from './LimitField.vue'
import PlanAside from './PlanAside.vue'
import ProcedureField from './ProcedureField.vue'
import ToldHere from './ToldHere.vue'
import { emptyForm, fillIn, formOf, namesOf, presetOf, saidBy, startOf } from './form'
import { useLast } from './useLast'
import { usePlan } from './usePlan'

const shop = useLatest(() => ask(api.GET('/api/shop')))
const procedures = useLatest(() => ask(api.GET('/api/procedures')))
const form = reactive(emptyForm())
const said = saidBy(useRoute().query)
const again = said('again')
const part = { job: said('job'), operation: said('operation') }
const before = useLatest(() =>
  ask(api.GET('/api/setups/{setup_id}/again', { params: { path: { setup_id: again } } })),
)
const ready = Promise.all([shop.run(), procedures.run(), again ? before.run() : undefined])
fillIn(form, said)
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
const { edge, asked } = useEdge(form, procedure)
const lever = computed(() => gauges.value.find((g) => g.id === form.gauge_id)?.kind === 'lever')
watch([shop.data, procedures.data, before.data], ([found, known, planned]) => {
  if (!found || !known || (again && !planned && !before.fault.value)) return
  if (planned) {
    Object.assign(form, formOf(planned))
    form.stations = presetOf(planned.stations_deg ?? [], asks.value?.presets) ?? 'own'
  }
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
const { told, expect, checked, general, sending, fault, open, sheet } = usePlan(form, procedure, ready, {
  ...(again ? { again } : {}),
  ...(part.job ? { operation: part } : {}),
})

const last = useLast(form, procedure, !again)
/** The procedure’s own choices stand in one line until one of them is to be looked at. */
const folded = computed(
  () =>
    !!last.at.value &&
    !last.open.value &&
    !fault('choices') &&
    !told.value.some((one) => one.field.startsWith('choices')),
)
const choices = ref<HTMLElement>()
async function unfold(): Promise<void> {
  last.open.value = true
  await nextTick()
  choices.value?.querySelector<HTMLElement>('input, button, [tabindex="0"]')?.focus()
}
const names = computed(() => namesOf([...(shop.data.value?.gauges ?? []), ...(shop.data.value?.stock ?? [])]))

function onKey(event: KeyboardEvent): void {
  if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return
  event.stopPropagation() // a list that has the focus would take Enter for itself
  event.preventDefault()
  void open()
}
onMounted(() => partInput.value?.focus())
useEventListener(document, 'keydown', onKey, { capture: true })
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
  font-size: var(--type-head);
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
/* Upright there is no room beside: what is told comes below what is asked. */
@media (max-width: 900px) {
  .plan {
    grid-template-columns: minmax(0, 1fr);
    overflow: auto;
  }
  .form {
    overflow: visible;
  }
}
</style>
