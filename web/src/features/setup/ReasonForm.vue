<template>
  <form class="reason" @submit.prevent="reason && emit('give', reason)">
    <label class="label" for="reason">{{ label }}: why?</label>
    <el-input id="reason" ref="input" v-model.trim="reason" maxlength="500" @keydown.esc="emit('cancel')" />
    <button class="button main" :disabled="!reason">Keep the reason</button>
    <button class="button" type="button" @click="emit('cancel')">Cancel</button>
  </form>
</template>

<script setup lang="ts">
import { onMounted, ref } from 'vue'

interface Props {
  /** What is done, and wants a reason. */
  label: string
}
defineProps<Props>()
const emit = defineEmits<{ give: [reason: string]; cancel: [] }>()
const reason = ref('')
const input = ref<{ focus: () => void }>()
onMounted(() => input.value?.focus())
</script>

<style scoped>
.reason {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
}
.reason label,
.reason .el-input {
  grid-column: 1 / -1;
}
</style>
