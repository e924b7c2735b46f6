<template>
  <main class="shop">
    <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <section v-for="shelf in shelves" :key="shelf.kind" :aria-labelledby="shelf.kind">
      <div class="head">
        <h2 :id="shelf.kind">{{ shelf.title }}</h2>
        <button class="button" type="button" @click="edit(shelf.kind)">Add</button>
      </div>
      <button
        v-for="item in shelf.items"
        :key="item.id"
        type="button"
        class="item"
        @click="edit(shelf.kind, item.id)"
      >
        <b>{{ item.name }}</b>
        <span class="soft small">{{ item.about }}</span>
      </button>
      <p v-if="data && !shelf.items.length" class="soft">None yet.</p>
    </section>
    <ItemDialog
      v-if="editing"
      :id="editing.id"
      :key="editing.id"
      :kind="editing.kind"
      :start="editing.form"
      @close="close"
    >
      <p v-if="editing.kind === 'holder' && remembered(editing.id)" class="memory">
        {{ remembered(editing.id) }}.
        <button class="button" type="button" @click="forget(editing.id)">Forget all that</button>
      </p>
      <ul
        v-if="editing.kind === 'machine' && found(editing.id).length"
        class="found"
        aria-label="Found to hold"
      >
        <li v-for="one in found(editing.id)" :key="one.at">
          <b>{{ formatDate(one.at) }}</b> <RichText :parts="one.told" :resolution-mm="0.0005" />
        </li>
      </ul>
    </ItemDialog>
  </main>
</template>

<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, ask, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import RichText from '../../shared/components/RichText.vue'
import { formatDate, formatLength, formatPart } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'
import ItemDialog from './ItemDialog.vue'
import {
  blank,
  FIELDS,
  fromGauge,
  fromHolder,
  fromMachine,
  fromStock,
  type ItemForm,
  type Kind,
} from './items'

const prefs = usePrefs()
const { data, fault, run } = useLatest(() => ask(api.GET('/api/shop')))
void run()
const editing = ref<{ kind: Kind; id: string; form: ItemForm }>()

const shelves = computed(() => [
  {
    kind: 'machine' as const,
    title: 'Machines',
    items: (data.value?.machines ?? []).map((m) => ({
      ...m,
      about: `${m.kind}, repeats to ${formatLength(m.floor_mm, prefs.unit, 0.0003)} TIR${since(m.id)}`,
    })),
  },
  {
    kind: 'holder' as const,
    title: 'Holders',
    items: (data.value?.holders ?? []).map((h) => ({
      ...h,
      about: aboutHolder(h),
    })),
  },
  {
    kind: 'gauge' as const,
    title: 'Gauges',
    items: (data.value?.gauges ?? []).map((g) => ({
      ...g,
      about: `${g.kind}, one mark ${formatLength(g.graduation_mm, prefs.unit, g.graduation_mm / 5)}${g.turn_mm === null ? '' : ', counts turns'}${g.check_due === null ? '' : `, check due ${g.check_due}`}`,
    })),
  },
  {
    kind: 'stock' as const,
    title: 'Drawers',
    items: (data.value?.stock ?? []).map((s) => ({
      ...s,
      about: `${s.kind === 'shims' ? 'shims' : 'offset dowels'}, ${s.pieces.length} sizes, ${s.pieces.reduce((n, p) => n + p.count, 0)} pieces`,
    })),
  },
])

const found = (id: string): Schemas['FoundOut'][] => data.value?.found[id] ?? []
/** When a machine was last measured, if it ever was. */
const since = (id: string): string => {
  const last = found(id)[0]
  return last ? `, found ${formatDate(last.at)}` : ''
}

function aboutHolder(h: Schemas['Holder']): string {
  const lead = h.lead_mm === null ? '' : `, ${h.lead_mm} mm a turn`
  const kind = FIELDS.holder[1]?.choices?.find((c) => c.id === h.kind)?.word ?? h.kind
  const size = h.edge_mm ? `${h.edge_mm} mm long` : `work to ${h.max_work_mm} mm`
  return `${kind}, ${size}${h.edge_mm ? '' : lead}${remembered(h.id) ? '. ' + remembered(h.id) : ''}`
}

/** What a holder remembers, in words; nothing when it was never used, or was told to forget. */
function remembered(id: string): string {
  const memory = data.value?.memories[id]
  if (!memory?.setups) return ''
  const parts = [`Remembers ${memory.setups} set-up${memory.setups === 1 ? '' : 's'}`]
  if (memory.moves) parts.push(`${formatPart(memory.gain)} of a move arrives`)
  if (memory.kicks) {
    const kick = Math.hypot(memory.kick_x_mm, memory.kick_y_mm)
    parts.push(`kicks ${formatLength(kick, prefs.unit, 0.0005)} on tightening`)
  }
  if (memory.repeat_mm !== null)
    parts.push(`repeats to ${formatLength(memory.repeat_mm, prefs.unit, 0.0005)}`)
  return parts.join(', ')
}

async function forget(id: string): Promise<void> {
  await ask(api.DELETE('/api/shop/holders/{item_id}/memory', { params: { path: { item_id: id } } }))
  close()
}

function edit(kind: Kind, id?: string): void {
  const shop = data.value // what is added needs nothing from it, so Add works before it has come
  const machine = kind === 'machine' ? shop?.machines.find((m) => m.id === id) : undefined
  const holder = kind === 'holder' ? shop?.holders.find((h) => h.id === id) : undefined
  const gauge = kind === 'gauge' ? shop?.gauges.find((g) => g.id === id) : undefined
  const stock = kind === 'stock' ? shop?.stock.find((s) => s.id === id) : undefined
  const form = machine
    ? fromMachine(machine)
    : holder
      ? fromHolder(holder)
      : gauge
        ? fromGauge(gauge)
        : stock
          ? fromStock(stock)
          : blank(kind)
  editing.value = { kind, id: id ?? uuid(), form }
}

function close(): void {
  editing.value = undefined
  void run()
}
</script>

<style scoped>
.shop {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 24px;
  align-content: start;
  padding: 22px 28px;
  overflow: auto;
}
.shop > .fault {
  grid-column: 1 / -1;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 8px;
}
h2 {
  font-size: 20px;
}
.memory {
  display: flex;
  grid-column: 1 / -1;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 10px;
}
.found {
  grid-column: 1 / -1;
  margin: 0 0 10px;
  padding: 0;
  list-style: none;
}
.item {
  display: grid;
  gap: 2px;
  width: 100%;
  min-height: 60px;
  padding: 10px 4px;
  border: 0;
  border-top: 1px solid var(--rule);
  background: transparent;
  color: var(--ink);
  font-size: 17px;
  text-align: left;
  cursor: pointer;
}
.item:hover b {
  color: var(--plum);
}
@media (max-width: 1000px) {
  .shop {
    grid-template-columns: 1fr;
  }
}
</style>
