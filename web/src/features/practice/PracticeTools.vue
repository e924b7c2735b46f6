<template>
  <div class="tools">
    <button class="button way" type="button" aria-label="Turn back" @click="emit('turn', -5)">
      <kbd>A</kbd>
    </button>
    <button class="button way" type="button" aria-label="Turn on" @click="emit('turn', 5)">
      <kbd>D</kbd>
    </button>
    <button class="button" type="button" @click="emit('spot')">To the spot <kbd>N</kbd></button>
    <button class="button" type="button" @click="emit('zero')">Zero here <kbd>Z</kbd></button>
    <button class="button" type="button" @click="emit('bad')">Bad spot <kbd>X</kbd></button>
  </div>
</template>

<script setup lang="ts">
const emit = defineEmits<{ turn: [notches: number]; spot: []; zero: []; bad: [] }>()
</script>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: center;
  padding: 4px;
}
.button {
  min-height: 48px;
  padding: 0 12px;
}
@media (max-width: 1100px) {
  .button:not(.way) kbd {
    display: none;
  }
}
</style>
