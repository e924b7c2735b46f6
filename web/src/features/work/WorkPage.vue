<template>
  <main class="work">
    <SumList ref="list" :sums="data?.sums ?? []" :now="id" />
    <template v-if="id && worked">
      <section ref="drawn" class="picture" aria-label="Picture">
        <SumPicture v-if="worked.picture" :picture="worked.picture" />
        <p v-else class="soft unset">The picture comes back when the figures can be used.</p>
      </section>
      <section class="sum" :aria-labelledby="'sum-title'">
        <h1 id="sum-title">{{ worked.title }}</h1>
        <div class="figures">
          <SumFigure
            v-for="figure in worked.figures"
            :key="figure.id"
            :figure="figure"
            :text="textOf(figure)"
            :fault="faultOf(figure.id)"
            @typed="type(figure.id, $event)"
            @left="left()"
          />
        </div>
        <p v-if="faultOf('')" class="fault" role="alert">{{ faultOf('') }}</p>
        <div class="told" aria-live="polite">
          <RichText
            v-for="(line, index) in worked.told"
            :key="index"
            tag="p"
            :parts="line"
            :resolution-mm="FINE_MM"
          />
        </div>
        <p class="formula small">
          <span class="num">{{ worked.formula }}</span> {{ worked.holds }}
        </p>
        <p class="done soft small" role="status">{{ done }}</p>
        <div class="buttons">
          <button class="button" type="button" :disabled="!worked.picture" @click="noteOpen = true">
            Note it in a set-up <kbd>N</kbd>
          </button>
          <button class="button" type="button" @click="copy">Copy link <kbd>L</kbd></button>
          <SavePicture v-if="worked.picture" :within="() => drawn" :name="id" />
        </div>
      </section>
    </template>
    <section v-else class="first">
      <p v-if="fault || listFault" class="fault" role="alert">
        {{ fault || `${listFault?.detail} ${listFault?.fix}` }}
      </p>
      <template v-else-if="!id">
        <h1>Work it out</h1>
        <p>
          Type any word of the trade on the left, or choose a sum. Type over any figure; the others follow at
          once. Nothing is kept unless you note it.
        </p>
      </template>
    </section>
    <NoteDialog v-model="noteOpen" :note="note" @noted="done = 'It is in the log of that set-up.'" />
  </main>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ask } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import { plain } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'
import SavePicture from '../../shared/components/SavePicture.vue'
import NoteDialog from './NoteDialog.vue'
import SumFigure from './SumFigure.vue'
import SumList from './SumList.vue'
import SumPicture from '../../shared/components/SumPicture.vue'
import { useSum } from './useSum'

/** Figures are written to this, mm. */
const FINE_MM = 0.0001
const route = useRoute()
const router = useRouter()
const prefs = usePrefs()
const id = computed(() => String(route.params.sum ?? ''))
const { data, fault: listFault, run } = useLatest(() => ask(api.GET('/api/sums')))
const { worked, fault, textOf, type, left, link } = useSum(id)
const list = ref<InstanceType<typeof SumList>>()
const noteOpen = ref(false)
const drawn = ref<HTMLElement>()
const done = ref('')

function faultOf(figure: string): string {
  const found = worked.value?.faults.find((one) => one.figure === figure)
  return found ? `${found.why} ${found.fix}`.trim() : ''
}

/** The sum in a line, as it is noted. */
const note = computed(() => {
  const one = worked.value
  if (!one) return ''
  const figures = one.figures
    .filter((f) => f.kind !== 'rows' && f.kind !== 'stock')
    .map((f) => {
      const chosen = f.choices.find((c) => c.id === textOf(f))?.word
      return `${f.label} ${chosen ?? `${textOf(f)}${f.unit && f.unit !== '°' ? ' ' : ''}${f.unit}`}`
    })
  const told = one.told.map((line) => plain(line, prefs.unit, FINE_MM)).join(' ')
  return `${one.title}: ${figures.join(', ')}. ${told}`.slice(0, 400)
})

async function copy(): Promise<void> {
  const address = new URL(router.resolve(link.value).href, window.location.href).href
  try {
    await navigator.clipboard.writeText(address)
    done.value = 'The link is copied.'
  } catch {
    done.value = 'The link is in the address line.'
  }
}
watch([id, worked], () => (done.value = ''))

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement
  if (event.ctrlKey || event.metaKey || event.altKey || noteOpen.value) return
  if (event.key === 'Escape' && target.matches('input, textarea')) target.blur()
  if (target.matches('input, textarea, select')) return
  const mine: Record<string, () => unknown> = {
    '/': () => list.value?.focus(),
    n: () => worked.value?.picture && (noteOpen.value = true),
    l: copy,
  }
  const found = mine[event.key.toLowerCase()]
  if (!found) return
  event.preventDefault()
  void found()
})
onMounted(() => {
  void run()
  if (!id.value) list.value?.focus()
})
</script>

<style scoped>
.work {
  display: grid;
  grid-template-columns: 264px minmax(0, 1fr) minmax(320px, 400px);
  grid-template-rows: minmax(0, 1fr);
  min-height: 0;
}
.picture {
  min-height: 0;
}
.unset {
  padding: 60px 28px;
}
.sum {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  padding: 16px 20px;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  overflow-y: auto;
}
h1 {
  margin: 0;
  font-size: var(--type-head);
  line-height: 1.2;
}
.told p {
  margin: 0 0 6px;
}
.formula {
  padding-top: 8px;
  border-top: 1px solid var(--rule);
  color: var(--ink-2);
}
.done {
  min-height: 1.4em;
  margin-top: auto;
  text-align: right;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.buttons .button {
  flex: 1 1 0;
  gap: 6px;
  min-width: max-content;
  font-size: var(--type-body);
}
.first {
  display: grid;
  grid-column: 2 / -1;
  gap: 12px;
  align-content: start;
  max-width: 60ch;
  padding: 60px 28px;
}
@media (max-width: 1100px) {
  .work {
    grid-template-columns: 210px minmax(0, 1fr) minmax(300px, 340px);
  }
}
@media (max-width: 1000px) and (orientation: portrait) {
  .work {
    grid-template-rows: minmax(0, 2fr) minmax(0, 3fr);
    grid-template-columns: 210px minmax(0, 1fr);
  }
  .work > :first-child {
    grid-row: 1 / -1;
  }
  .sum {
    border-top: 1px solid var(--rule);
  }
  .first {
    grid-row: 1 / -1;
  }
}
</style>
