<template>
  <main v-if="view" class="page">
    <header>
      <div>
        <h1>{{ view.part }}</h1>
        <RichText tag="p" class="soft" :parts="view.about" :resolution-mm="view.resolution_mm" />
        <p v-if="record" class="soft">
          <template v-for="(one, n) in backs" :key="one.subject">
            <template v-if="n"> · </template>
            <RouterLink :to="`/history/${one.subject}/${encodeURIComponent(one.id)}`">{{
              one.name
            }}</RouterLink>
          </template>
        </p>
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
        <RouterLink class="button" :to="`/plan?again=${view.id}`">Same again</RouterLink>
        <RouterLink class="button" :to="`/replay/${view.id}`">Step by step</RouterLink>
        <RouterLink class="button" :to="`/compare?a=${view.id}`">Compare</RouterLink>
        <a class="button" :href="`/api/setups/${view.id}/log.csv`" download>CSV</a>
        <a v-if="view.passes.length" class="button" :href="`/api/setups/${view.id}/readings.csv`" download
          >Readings</a
        >
        <a class="button" :href="`/api/setups/${view.id}/events.json`" download>JSON</a>
        <a class="button" :href="paper('sheet.html')" target="_blank">Sheet</a>
        <a class="button" :href="paper('record.html')" target="_blank">Record</a>
        <a class="button" :href="paper('record.pdf')" target="_blank">PDF</a>
      </nav>
    </header>
    <StoryLines v-if="record" class="story" :story="record.story" :res="view.resolution_mm" />
    <MeasuredForm
      v-if="record && !view.certifies && (view.verdict || view.accepted || !view.standing)"
      :id="view.id"
      :kind="view.limit_kind"
      :next="record.story.after.length + 1"
      @kept="runRecord()"
    />
    <FollowUps v-if="record" :id="view.id" :follow-ups="record.story.follow_ups" @kept="runRecord()" />
    <PhotoStrip :id="view.id" />
    <div v-for="row in record?.story.runs" :key="row.what" class="run">
      <p><RichText :parts="row.told" :resolution-mm="view.resolution_mm / 10" /></p>
      <TrendChart
        :label="`Piece by piece, ${unitWord(prefs.unit)} ${row.label}`"
        :points="
          row.points.map((p) => ({
            at: p.piece,
            value: inUnit(p.mm, prefs.unit),
            odd: row.limit_mm != null && p.mm > row.limit_mm,
            title: `Piece ${p.piece}`,
          }))
        "
        :limit="row.limit_mm == null ? undefined : inUnit(row.limit_mm, prefs.unit)"
        :say="(value) => String(Number(value.toPrecision(3)))"
        :say-at="(at) => (Number.isInteger(at) ? String(at) : '')"
      />
    </div>
    <div class="columns">
      <section ref="shown" aria-label="Picture and passes">
        <SceneView
          v-if="view.panels[0]"
          class="chuck"
          :scene="view.panels[0].scene"
          :resolution-mm="view.resolution_mm"
        />
        <SavePicture v-if="view.panels[0]" :within="() => shown" :name="`set-up-${view.id}`" />
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
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, ask } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import LogLines from '../../shared/components/LogLines.vue'
import TrendChart from '../../shared/components/TrendChart.vue'
import SavePicture from '../../shared/components/SavePicture.vue'
import PassTable from '../../shared/components/PassTable.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { bareLength, inUnit, kindWord, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import SceneView from '../../shared/scenes/SceneView.vue'
import { useLatest } from '../../shared/useLatest'
import FollowUps from './FollowUps.vue'
import MeasuredForm from './MeasuredForm.vue'
import PhotoStrip from './PhotoStrip.vue'
import StoryLines from './StoryLines.vue'

const id = String(useRoute().params.id)
const prefs = usePrefs()
const shown = ref<HTMLElement>()
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
/** Whose history it is part of. */
const backs = computed(() => {
  const story = record.value?.story
  if (!story || !view.value) return []
  return [
    { subject: 'machine', id: story.machine, name: view.value.machine },
    { subject: 'holder', id: story.holder, name: view.value.holder },
    { subject: 'gauge', id: story.gauge, name: view.value.gauge },
    { subject: 'hand', id: story.hand, name: story.hand },
  ].filter((one) => one.id)
})

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
  grid-template-columns: 1fr auto;
  gap: 14px 28px;
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
  grid-column: 1 / -1;
}
.run {
  max-width: 820px;
}
.story {
  margin-bottom: 14px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 560px) minmax(0, 1fr);
  gap: 28px;
}
.columns h2 {
  margin-top: 14px;
}
@media (max-width: 959px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
.chuck {
  height: auto;
  max-width: 560px;
}
</style>
