<template>
  <section v-if="mine" class="hand" aria-label="What earlier operations leave">
    <p>
      <b>{{ data?.name }}, {{ mine.operation.name }}.</b>
      <span v-if="mine.why" class="why">{{ mine.why }}</span>
    </p>
    <p v-for="(told, n) in mine.told" :key="n"><RichText :parts="told" :resolution-mm="0.0005" /></p>
  </section>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { api, ask } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** The job, and which of its operations is planned. */
  job: string
  operation: string
}
const props = defineProps<Props>()
const { data, run } = useLatest(() =>
  ask(api.GET('/api/jobs/orders/{job_id}', { params: { path: { job_id: props.job } } })),
)
void run()
const mine = computed(() => data.value?.operations.find((one) => one.operation.id === props.operation))
</script>

<style scoped>
.hand {
  max-width: 860px;
  margin-bottom: 12px;
  padding: 10px 14px;
  border-left: 4px solid var(--brass);
  background: var(--well);
}
.why {
  color: var(--out);
}
</style>
