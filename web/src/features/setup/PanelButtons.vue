<template>
  <div class="buttons" :class="{ many: panel.others.length + (ways > 1 ? 1 : 0) > 3 }">
    <button
      v-if="panel.primary"
      class="button main"
      type="button"
      :disabled="busy || !mayPass"
      data-part="primary"
      @click="emit('act', panel.primary)"
    >
      {{ panel.primary.label }} <kbd>{{ panel.primary.key }}</kbd>
    </button>
    <button
      v-for="action in panel.others"
      :key="action.id"
      class="button"
      :class="{ main: !panel.primary && panel.name === 'press' }"
      type="button"
      :disabled="busy"
      @click="emit('act', action)"
    >
      {{ action.label }} <kbd>{{ action.key }}</kbd>
    </button>
    <button v-if="ways > 1" class="button" type="button" @click="emit('another')">
      Another way <kbd>D</kbd>
    </button>
  </div>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'

interface Props {
  /** What to do now. */
  panel: Schemas['Panel']
  /** How many ways there are to do it. */
  ways: number
  /** Something is on its way; wait. */
  busy: boolean
  /** Is every caution of a hold point checked off? */
  mayPass: boolean
}
defineProps<Props>()
const emit = defineEmits<{ act: [action: Schemas['Action']]; another: [] }>()
</script>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.buttons .main {
  flex: 1 1 100%;
}
.buttons .button:not(.main) {
  flex: 1 1 0;
  gap: 6px;
  min-width: max-content;
  padding: 0 9px;
  font-size: var(--type-body);
}
.buttons.many .button:not(.main) {
  flex-direction: column;
  gap: 2px;
  min-width: 80px;
  padding: 4px 2px;
  line-height: 1.2;
  white-space: normal;
}
</style>
