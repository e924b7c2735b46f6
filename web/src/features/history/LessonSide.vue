<template>
  <aside class="side">
    <PushMap
      v-if="history.pushes.length"
      :pushes="history.pushes"
      :jaws-deg="history.jaws_deg"
      :since="since"
    />
    <h2 class="label">Lessons, newest first</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <ul>
      <li v-for="line in shown" :key="line.setup" :class="line.counts.replace(' ', '-')">
        <span class="soft small">{{ formatDate(line.at) }}</span>
        <span>
          <RouterLink :to="`/logbook/${line.setup}`">{{ line.part }}</RouterLink>
          <template v-if="line.what.length"
            ><br /><RichText :parts="line.what" :resolution-mm="0.00025"
          /></template>
        </span>
        <button
          v-if="line.counts === 'counts' || line.counts === 'struck'"
          class="button"
          type="button"
          :aria-label="`${line.counts === 'struck' ? 'Let count again' : 'Strike'}: ${line.part}, ${formatDate(line.at)}`"
          @click="strike(line.setup, line.counts === 'counts')"
        >
          {{ line.counts === 'struck' ? 'Let it count' : 'Strike' }}
        </button>
        <span v-else class="soft small">{{ line.counts }}</span>
      </li>
    </ul>
    <button v-if="history.lessons.length > shown.length" class="button" type="button" @click="most += 20">
      Older lessons
    </button>
    <button v-if="!sure" class="button" type="button" @click="sure = true">Serviced today</button>
    <div v-else class="sure">
      <p>Cleaned, repaired or bumped: only set-ups from now on count.</p>
      <button class="button main" type="button" @click="serviced">Yes, forget what was before</button>
      <button class="button" type="button" @click="sure = false">No</button>
    </div>
  </aside>
</template>

<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import { formatDate } from '../../shared/format'
import PushMap from './PushMap.vue'

interface Props {
  /** The holder. */
  id: string
  history: Schemas['History']
  /** Since when its shift is another. */
  since: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ changed: [] }>()
const most = ref(8)
const sure = ref(false)
const fault = ref('')
const shown = computed(() => props.history.lessons.slice(0, most.value))

async function doing(call: Promise<unknown>): Promise<void> {
  fault.value = ''
  try {
    await call
    sure.value = false
    emit('changed')
  } catch (error) {
    fault.value = wordsOf(error)
  }
}
const at = { params: { path: { item_id: props.id } } }
const strike = (setup_id: string, struck: boolean): Promise<void> =>
  doing(ask(api.PUT('/api/holders/{item_id}/struck', { ...at, body: { setup_id, struck } })))
const serviced = (): Promise<void> => doing(ask(api.DELETE('/api/shop/holders/{item_id}/memory', at)))
</script>

<style scoped>
.side {
  padding: 18px 24px;
  overflow: auto;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
}
ul {
  margin: 0 0 14px;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 10px;
  align-items: center;
  min-height: 56px;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
.struck > span:nth-child(2) {
  color: var(--ink-2);
  text-decoration: line-through;
}
.sure {
  display: grid;
  gap: 8px;
}
</style>
