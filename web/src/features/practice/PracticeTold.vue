<template>
  <div class="told">
    <p v-if="refused" class="fault" role="alert">{{ refused }}</p>
    <p v-if="away" class="fault" role="status">The server does not answer. What you did waits here for it.</p>
    <template v-if="data.advice">
      <p class="label">{{ data.advice_kind === 'full' ? 'The advice' : 'You asked' }}</p>
      <RichText tag="p" class="lead" :parts="data.advice.headline" :resolution-mm="res" data-part="advice" />
      <button v-if="primary" class="button" type="button" :disabled="busy" @click="emit('tell', primary)">
        {{ primary.label }} <kbd>Enter</kbd>
      </button>
    </template>
    <template v-else-if="data.asked.length">
      <p class="label">You asked</p>
      <RichText tag="p" class="lead" :parts="data.asked" :resolution-mm="res" data-part="advice" />
      <p class="soft small">Ask again for the answer; it costs you the clean drill.</p>
    </template>
    <PassTable
      v-else-if="data.view.passes.length"
      :passes="data.view.passes"
      :heads="data.view.heads"
      :res="res"
    />
    <p v-else class="soft">
      Turn it to each spot, read the dial, type it. What you read is up to you, as at the machine.
    </p>
  </div>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import PassTable from '../../shared/components/PassTable.vue'
import RichText from '../../shared/components/RichText.vue'

interface Props {
  /** The practice as it stands. */
  data: Schemas['Practice']
  /** Why the last thing was not done. */
  refused: string
  /** The server does not answer. */
  away: boolean
  busy: boolean
  /** What the advice has done next, where that is told to the set-up by a button. */
  primary: Schemas['Action'] | undefined
  /** The finest step worth showing, mm. */
  res: number
}
defineProps<Props>()
const emit = defineEmits<{ tell: [action: Schemas['Action']] }>()
</script>

<style scoped>
.told {
  display: grid;
  gap: 6px;
  align-content: start;
  min-width: 0;
}
.told > .button {
  justify-self: start;
}
.lead {
  font-size: var(--type-lead);
}
</style>
