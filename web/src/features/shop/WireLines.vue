<template>
  <section class="wire" aria-label="What it sends">
    <p v-if="data" class="state">
      <b>{{ STATES[data.now.state] }}</b>
      <template v-if="data.now.why">: {{ data.now.why }}</template>
    </p>
    <p v-else-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <table v-if="data?.lines.length">
      <thead>
        <tr>
          <th scope="col">Line as it came</th>
          <th scope="col">Taken for</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in data.lines.slice(0, SHOWN)" :key="line.number">
          <td class="num raw">{{ line.raw }}</td>
          <td class="num">
            {{ line.mm === null ? line.why : formatLength(line.mm, prefs.unit, FINE_MM, true) }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">No line has come yet.</p>
    <button class="button" type="button" @click="remove">Take it away</button>
  </section>
</template>

<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { api, ask } from '../../api/client'
import { formatLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** The live indicator, as it is kept. */
  id: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ gone: [] }>()
const prefs = usePrefs()
/** Figures are shown to this, mm; so many lines; how often they are fetched, ms. */
const FINE_MM = 0.0001
const SHOWN = 8
const EVERY_MS = 500
const STATES = { opening: 'Looking for it', live: 'Live', stale: 'Old', gone: 'Gone' }
const where = { params: { path: { item_id: props.id } } }
const { data, fault, run } = useLatest(() => ask(api.GET('/api/live/{item_id}/lines', where)))
void run()
useIntervalFn(() => void run(), EVERY_MS)

async function remove(): Promise<void> {
  await ask(api.DELETE('/api/live/{item_id}', where))
  emit('gone')
}
</script>

<style scoped>
.wire {
  grid-column: 1 / -1;
}
.state {
  margin: 0 0 6px;
}
table {
  width: 100%;
  margin-bottom: 10px;
  border-collapse: collapse;
}
th,
td {
  padding: 2px 8px 2px 0;
  border-bottom: 1px solid var(--rule);
  text-align: left;
}
.raw {
  white-space: pre;
}
</style>
