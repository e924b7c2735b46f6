<template>
  <header class="top">
    <div>
      <b class="title">{{ data.title }}</b>
      <span class="soft small">
        <RichText :parts="data.about" :resolution-mm="res" />
        <template v-if="data.level"> · {{ data.level }}</template>
      </span>
    </div>
    <p class="counts">
      <b class="num">{{ clock(elapsed) }}</b>
      <span>
        pass <b class="num">{{ data.view.tray.pass_no }}</b>
      </span>
      <span v-if="data.advice_kind === 'asked'"
        ><b class="num">{{ data.asks }}</b> asked</span
      >
      <span v-if="data.hands.length">
        grip: <b data-part="grip">{{ data.grip }}</b>
      </span>
    </p>
    <RouterLink class="button" to="/practice">Leave it</RouterLink>
  </header>
</template>

<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import { clock } from './clock'

interface Props {
  /** The practice as it stands. */
  data: Schemas['Practice']
  /** The finest step worth showing, mm. */
  res: number
}
const props = defineProps<Props>()
const elapsed = ref(0)
function look(): void {
  elapsed.value =
    props.data.ended?.seconds ?? Math.max((Date.now() - Date.parse(props.data.began_at)) / 1000, 0)
}
useIntervalFn(look, 250, { immediateCallback: true })
</script>

<style scoped>
.top {
  display: flex;
  gap: 24px;
  align-items: center;
  justify-content: space-between;
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
}
.top > div {
  display: grid;
}
.title {
  font-size: var(--type-lead);
}
.counts {
  display: flex;
  gap: 24px;
  align-items: baseline;
  white-space: nowrap;
}
.counts > b {
  font-size: var(--type-head);
}
</style>
