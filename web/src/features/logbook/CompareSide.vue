<template>
  <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
  <template v-if="view && record">
    <div class="line-up">
      <h2>
        <RouterLink :to="`/logbook/${view.id}`">{{ view.part }}</RouterLink>
      </h2>
      <slot />
    </div>
    <p class="soft">{{ opened }} · {{ view.machine }} · {{ view.holder }} · {{ view.gauge }}</p>
    <VerdictMark
      class="verdict"
      :outcome="view.accepted ? 'accepted' : (view.verdict?.outcome ?? 'open')"
      :size="26"
    />
    <StoryLines :story="record.story" :res="view.resolution_mm" />
    <SceneView
      v-if="view.panels[0]"
      class="scene"
      :scene="view.panels[0].scene"
      :resolution-mm="view.resolution_mm"
    />
    <PassTable :passes="record.passes" :heads="view.heads" :res="view.resolution_mm" />
  </template>
</template>

<script setup lang="ts">
import { computed, watch } from 'vue'
import { api, ask, type Schemas } from '../../api/client'
import PassTable from '../../shared/components/PassTable.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatDay } from '../../shared/format'
import SceneView from '../../shared/scenes/SceneView.vue'
import { useLatest } from '../../shared/useLatest'
import StoryLines from './StoryLines.vue'

interface Props {
  /** Which set-up. */
  id: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ found: [view: Schemas['SetupView']] }>()
const at = { params: { path: { setup_id: props.id } } }
const { data: view, fault, run } = useLatest(() => ask(api.GET('/api/setups/{setup_id}', at)))
const { data: record, run: runRecord } = useLatest(() => ask(api.GET('/api/setups/{setup_id}/record', at)))
void run()
void runRecord()
watch(view, (now) => now && emit('found', now))
const opened = computed(() => (record.value?.log[0] ? formatDay(record.value.log[0].at) : ''))
</script>

<style scoped>
.line-up {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
}
h2 {
  font-size: var(--type-lead);
}
.verdict {
  margin: 8px 0;
}
.scene {
  height: 260px;
  margin: 10px 0;
}
</style>
