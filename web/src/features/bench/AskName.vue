<template>
  <form class="who" @submit.prevent="keep">
    <label for="who">Who is at this tablet? It stands beside everything that is done on it.</label>
    <el-input id="who" v-model.trim="name" maxlength="40" autocomplete="name" />
    <button class="button" :disabled="!name">Keep the name</button>
    <button class="button" type="button" @click="prefs.asked = true">Several of us</button>
  </form>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { usePrefs } from '../../shared/prefs'

const prefs = usePrefs()
const name = ref('')
function keep(): void {
  prefs.author = name.value
  prefs.asked = true
}
</script>

<style scoped>
.who {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 12px;
  padding: 10px 14px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--sheet);
}
.who label {
  grid-column: 1 / -1;
}
.who .el-input {
  min-width: 0;
}
@media (max-width: 1000px) and (orientation: portrait) {
  .who {
    grid-template-columns: 1fr 1fr;
  }
  .who .el-input {
    grid-column: 1 / -1;
  }
}
</style>
