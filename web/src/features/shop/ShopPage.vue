<template>
  <main class="shop">
    <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <section v-for="form in forms" :key="form.shelf" :aria-labelledby="form.shelf">
      <div class="head">
        <h2 :id="form.shelf">{{ form.title }}</h2>
        <button class="button" type="button" @click="edit(form)">Add</button>
      </div>
      <button
        v-for="item in data?.[form.shelf]"
        :key="item.id"
        type="button"
        class="item"
        @click="edit(form, item)"
      >
        <b>{{ item.name }}</b>
        <span class="soft small">
          <RichText :parts="item.about" :resolution-mm="FINE_MM" />
          <template v-if="item.found[0]">, found {{ formatDate(item.found[0].at) }}</template>
          <template v-if="item.remembers.length">
            <br /><RichText :parts="item.remembers" :resolution-mm="FINE_MM" />
          </template>
        </span>
      </button>
      <p v-if="data && !data[form.shelf].length" class="soft">None yet.</p>
    </section>
    <WholeShop v-if="data" @read="run()" />
    <ItemDialog
      v-if="editing"
      :id="editing.id"
      :key="editing.id"
      :shelf="editing.form"
      :item="editing.item"
      :gauges="data?.gauges ?? []"
      @close="close"
    >
      <p v-if="editing.item?.remembers.length" class="memory">
        <RichText :parts="editing.item.remembers" :resolution-mm="FINE_MM" />
        <button class="button" type="button" @click="forget(editing.id)">Forget all that</button>
      </p>
      <WireLines v-if="editing.form.shelf === 'wires' && editing.item" :id="editing.id" @gone="close" />
      <ul v-if="editing.item?.found.length" class="found" aria-label="Found to hold">
        <li v-for="one in editing.item.found" :key="one.at">
          <b>{{ formatDate(one.at) }}</b> <RichText :parts="one.told" :resolution-mm="FINE_MM" />
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
import { formatDate } from '../../shared/format'
import { useLatest } from '../../shared/useLatest'
import ItemDialog from './ItemDialog.vue'
import WholeShop from './WholeShop.vue'
import WireLines from './WireLines.vue'

type Form = Schemas['ShelfForm']
type Item = Schemas['ItemOut']
/** The finest step that a line of the Shop shows. */
const FINE_MM = 0.0005

const { data, fault, run } = useLatest(() => ask(api.GET('/api/shop')))
const asked = useLatest(() => ask(api.GET('/api/shop/forms')))
void run()
void asked.run()
const forms = computed(() => asked.data.value?.shelves ?? [])
const editing = ref<{ form: Form; id: string; item: Item | undefined }>()

async function forget(id: string): Promise<void> {
  await ask(api.DELETE('/api/shop/holders/{item_id}/memory', { params: { path: { item_id: id } } }))
  close()
}

/** What is added needs nothing from the Shop, so Add works before it has come. */
function edit(form: Form, item?: Item): void {
  editing.value = { form, id: item?.id ?? uuid(), item }
}

function close(): void {
  editing.value = undefined
  void run()
}
</script>

<style scoped>
.shop {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(215px, 1fr));
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
  font-size: var(--type-lead);
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
  font-size: var(--type-body);
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
