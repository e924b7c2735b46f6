<template>
  <div class="pad" role="group" aria-label="Number pad">
    <button
      v-for="key in KEYS"
      :key="key"
      type="button"
      :class="{ wide: key === 'Enter' }"
      @click="emit('press', key)"
    >
      {{ key }}
    </button>
  </div>
</template>

<script setup lang="ts">
const emit = defineEmits<{ press: [key: string] }>()
const KEYS = ['7', '8', '9', '-', '4', '5', '6', '+', '1', '2', '3', 'off', '0', '.', 'back', 'Enter']
</script>

<style scoped>
.pad {
  display: grid;
  grid-template-columns: repeat(4, 64px);
  gap: 6px;
  padding: 10px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--sheet);
}
button {
  min-height: 56px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--ground);
  color: var(--ink);
  font: 650 var(--type-lead) var(--digits);
  cursor: pointer;
}
.wide {
  border-color: var(--plum);
  background: var(--plum);
  color: var(--on-plum);
  font-size: var(--type-body);
}
</style>
