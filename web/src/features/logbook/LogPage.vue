<template>
  <main v-if="view" class="page">
    <header>
      <div>
        <h1>{{ view.part }}</h1>
        <RichText tag="p" class="soft" :parts="view.about" :resolution-mm="view.resolution_mm" />
        <p class="soft">{{ view.machine }} · {{ view.holder }} · {{ view.gauge }}</p>
      </div>
      <div class="verdict">
        <VerdictMark :outcome="view.accepted ? 'accepted' : (view.verdict?.outcome ?? 'open')" :size="34" />
        <p v-if="view.verdict">
          <span class="num">
            {{ bareLength(view.verdict.value.mm, prefs.unit, view.resolution_mm) }} ±
            {{ bareLength(view.verdict.band_mm, prefs.unit, view.resolution_mm) }}
          </span>
          {{ unitWord(prefs.unit) }} {{ kindWord(view.verdict.value.kind) }}
        </p>
        <p v-if="view.accepted">{{ view.accepted }}</p>
      </div>
      <nav class="ways" aria-label="This set-up">
        <RouterLink v-if="view.standing" class="button" :to="`/set-up/${view.id}`">Go on</RouterLink>
        <a class="button" :href="`/api/setups/${view.id}/log.csv`" download>CSV</a>
        <a class="button" :href="`/api/setups/${view.id}/events.json`" download>JSON</a>
        <a class="button" :href="paper('sheet.html')" target="_blank">Sheet</a>
        <a class="button" :href="paper('record.html')" target="_blank">Record</a>
        <a class="button" :href="paper('record.pdf')" target="_blank">PDF</a>
      </nav>
    </header>
    <div class="columns">
      <section aria-label="Picture and passes">
        <SceneView
          v-if="view.panels[0]"
          class="chuck"
          :scene="view.panels[0].scene"
          :resolution-mm="view.resolution_mm"
        />
        <h2 class="label">Passes, the last one first</h2>
        <PassTable :passes="record?.passes ?? view.passes" :heads="view.heads" :res="view.resolution_mm" />
      </section>
      <section aria-label="Everything that was done">
        <h2 class="label">Everything that was done</h2>
        <LogLines :lines="record?.log ?? []" :res="view.resolution_mm" days />
      </section>
    </div>
  </main>
  <main v-else class="page">
    <template v-if="fault">
      <h1>{{ fault.detail }}</h1>
      <p>{{ fault.fix }}</p>
      <RouterLink class="button" to="/logbook">To the Logbook</RouterLink>
    </template>
  </main>
</template>

<script setup lang="ts">
import { useRoute } from 'vue-router'
import { api, ask } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import LogLines from '../../shared/components/LogLines.vue'
import PassTable from '../../shared/components/PassTable.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { bareLength, kindWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import SceneView from '../../shared/scenes/SceneView.vue'
import { useLatest } from '../../shared/useLatest'

const id = String(useRoute().params.id)
const prefs = usePrefs()
const {
  data: view,
  fault,
  run,
} = useLatest(() => ask(api.GET('/api/setups/{setup_id}', { params: { path: { setup_id: id } } })))
const { data: record, run: runRecord } = useLatest(() =>
  ask(api.GET('/api/setups/{setup_id}/record', { params: { path: { setup_id: id } } })),
)
void run()
void runRecord()

/** A paper of this set-up, in the unit of the screen. */
const paper = (name: string): string => `/api/setups/${id}/${name}?unit=${prefs.unit}`
</script>

<style scoped>
.page {
  padding: 18px 28px;
  overflow: auto;
}
header {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 28px;
  align-items: start;
  margin-bottom: 16px;
}
h1 {
  font-size: var(--type-head);
}
.verdict {
  font-size: var(--type-lead);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  justify-content: end;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 560px) minmax(0, 1fr);
  gap: 28px;
}
.chuck {
  height: auto;
}
</style>
