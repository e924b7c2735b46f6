<template>
  <section aria-labelledby="start">
    <h2 id="start" class="label">Start a set-up</h2>
    <div class="chips" role="group" aria-label="Machine">
      <button
        v-for="m in machines"
        :key="m.id"
        type="button"
        class="chip"
        :aria-pressed="m.id === machine"
        @click="machine = m.id"
      >
        {{ m.name }}
      </button>
    </div>
    <h3 class="label">Held in</h3>
    <div class="chips" role="group" aria-label="Holder">
      <button
        v-for="h in holders"
        :key="h.id"
        type="button"
        class="chip"
        :aria-pressed="h.id === holder"
        @click="holder = h.id"
      >
        {{ h.name }}
      </button>
    </div>
    <button class="button main plan" type="button" :disabled="!machine || !holder" @click="plan">
      Plan it <kbd>P</kbd>
    </button>
  </section>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, type Schemas } from '../../api/client'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** What a set-up can be started on. */
  machines: Schemas['Machine'][]
}
const props = defineProps<Props>()
const router = useRouter()
const shop = useLatest(() => ask(api.GET('/api/shop')))
const procedures = useLatest(() => ask(api.GET('/api/procedures')))
void shop.run()
void procedures.run()

const machine = ref('')
const holder = ref('')
watch(
  () => props.machines,
  (found) => (machine.value ||= found[0]?.id ?? ''),
  { immediate: true },
)
/** What goes onto the machine that is chosen. */
const holders = computed(() => {
  const kind = props.machines.find((m) => m.id === machine.value)?.kind
  const kinds = new Set(kind ? procedures.data.value?.holders_on[kind] : [])
  return (shop.data.value?.holders ?? []).filter((h) => kinds.has(h.kind))
})
watch(holders, (found) => {
  if (found.some((h) => h.id === holder.value)) return
  holder.value = (found.find((h) => h.kind === 'four_jaw_independent') ?? found[0])?.id ?? ''
})

function plan(): void {
  void router.push({ path: '/plan', query: { machine: machine.value, holder: holder.value } })
}
function onKey(event: KeyboardEvent): void {
  const typing = (event.target as HTMLElement).matches('input, textarea, select')
  if (
    !typing &&
    !event.ctrlKey &&
    !event.metaKey &&
    event.key.toLowerCase() === 'p' &&
    machine.value &&
    holder.value
  )
    plan()
}
useEventListener(document, 'keydown', onKey)
</script>

<style scoped>
h3 {
  margin-top: 18px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
.chip {
  min-height: 48px;
  padding: 0 14px;
  border: 1.5px solid var(--edge);
  border-radius: 8px;
  background: var(--ground);
  color: var(--ink);
  font-size: var(--type-body);
  font-weight: 600;
  cursor: pointer;
}
.chip[aria-pressed='true'] {
  border-color: var(--plum);
  background: var(--plum-wash);
  color: var(--plum);
}
.plan {
  width: 100%;
  margin-top: 18px;
}
</style>
