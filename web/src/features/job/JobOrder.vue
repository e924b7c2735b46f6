<template>
  <section class="order" aria-labelledby="order">
    <div class="head">
      <h2 id="order">
        {{ order.name.value ? `${order.name.value}: operations in order` : 'Operations in order' }}
      </h2>
      <button class="button" type="button" :disabled="!way || way.rating === 'out'" @click="emit('add')">
        Add what is chosen
      </button>
      <el-select
        v-if="order.earlier.value?.jobs.length"
        :model-value="order.id.value"
        clearable
        aria-label="Another part"
        placeholder="Parts planned before"
        @update:model-value="order.open(String($event ?? ''))"
      >
        <el-option
          v-for="one in order.earlier.value.jobs"
          :key="one.id"
          :value="one.id"
          :label="`${one.name}, ${formatDate(one.changed_at)}`"
        />
      </el-select>
    </div>
    <p v-if="order.fault.value" class="fault" role="alert">{{ order.fault.value }}</p>
    <p v-if="!order.operations.value.length" class="soft">
      A part that is turned over, or held twice, has several: add each way in the order it is done.
    </p>
    <ol>
      <li v-for="(view, n) in order.operations.value" :key="view.operation.id" :class="view.stage">
        <VerdictMark :outcome="MARKS[view.stage].outcome" :word="MARKS[view.stage].word" :size="22" />
        <div class="what">
          <KeptField
            class="name"
            :label="`Name of operation ${n + 1}`"
            :kept="view.operation.name"
            :most="80"
            @keep="order.change(n, { name: $event || view.operation.name })"
          />
          <p class="small soft">{{ view.operation.title }} · {{ view.operation.holder }}</p>
          <p v-if="view.why" class="small why">{{ view.why }}</p>
          <p v-for="(told, m) in view.told" :key="m" class="small">
            <RichText :parts="told" :resolution-mm="0.0005" />
          </p>
        </div>
        <KeptField
          :label="`What ${view.operation.name} leaves for the next`"
          placeholder="What it leaves: faces cut, marks, angle"
          :kept="view.operation.leaves ?? ''"
          :most="400"
          @keep="order.change(n, { leaves: $event })"
        />
        <div class="do">
          <button
            v-if="!view.operation.setup || view.stage === 'again'"
            class="button"
            :class="{ main: view.stage !== 'waits' }"
            type="button"
            @click="emit('begin', view)"
          >
            {{ view.stage === 'again' ? 'Do it again' : 'Start' }}
          </button>
          <RouterLink
            v-if="view.operation.setup"
            class="button"
            :to="
              view.stage === 'at_it' ? `/set-up/${view.operation.setup}` : `/logbook/${view.operation.setup}`
            "
          >
            {{ view.stage === 'at_it' ? 'Go on' : 'Look' }}
          </RouterLink>
          <button class="button" type="button" :disabled="!n" @click="order.move(n, -1)">Earlier</button>
          <button class="button" type="button" @click="order.remove(n)">Leave out</button>
        </div>
      </li>
    </ol>
  </section>
</template>

<script setup lang="ts">
import RichText from '../../shared/components/RichText.vue'
import VerdictMark from '../../shared/components/VerdictMark.vue'
import { formatDate } from '../../shared/format'
import KeptField from './KeptField.vue'
import type { Candidate } from './useJob'
import type { OperationView, useOrder } from './useOrder'

interface Props {
  /** The operations and what can be done with them. */
  order: ReturnType<typeof useOrder>
  /** The way that is chosen above. */
  way: Candidate | undefined
}
defineProps<Props>()
const emit = defineEmits<{ add: []; begin: [view: OperationView] }>()
const MARKS = {
  waits: { outcome: 'open', word: 'Waits' },
  to_do: { outcome: 'open', word: 'Next' },
  at_it: { outcome: 'cannot_tell', word: 'At it' },
  done: { outcome: 'holds', word: 'Done' },
  again: { outcome: 'outside', word: 'To be done again' },
} as const
</script>

<style scoped>
.order {
  padding: 12px 24px;
  overflow: auto;
  border-top: 1px solid var(--rule);
  background: var(--sheet);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
h2 {
  flex: 1;
  font-size: var(--type-lead);
}
.el-select {
  width: 260px;
}
ol {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 180px minmax(200px, 1fr) minmax(180px, 1fr) auto;
  gap: 14px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
.name {
  font-weight: 650;
}
.why {
  color: var(--out);
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
@media (max-width: 1000px) {
  li {
    grid-template-columns: 120px minmax(0, 1fr);
  }
  li > :nth-child(n + 3) {
    grid-column: 2;
  }
}
</style>
