<template>
  <p v-for="item in here" :key="item.code" class="told" role="note">
    <RichText :parts="item.text" :resolution-mm="FINE_MM" />
  </p>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'

interface Props {
  /** Everything that is to be told at the start. */
  told: readonly Schemas['Caveat'][]
  /** The field that this stands at. */
  field: string
}
const props = defineProps<Props>()
/** No gauge to round by yet: half a thousandth of a millimeter. */
const FINE_MM = 0.0005
const here = computed(() => props.told.filter((t) => t.field === props.field))
</script>

<style scoped>
.told {
  width: 100%;
  margin-top: 6px;
  padding: 6px 12px;
  border-left: 4px solid var(--brass);
  background: var(--brass-wash);
  font-size: var(--type-body);
  line-height: 1.35;
}
</style>
