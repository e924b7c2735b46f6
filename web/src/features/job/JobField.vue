<template>
  <el-form-item :error="fault">
    <template #label
      >{{ label }} <small v-if="hint" class="soft">{{ hint }}</small></template
    >
    <el-input v-model="text" :aria-label="label" autocomplete="off" :aria-invalid="Boolean(fault)" />
  </el-form-item>
</template>

<script setup lang="ts">
interface Props {
  /** What is asked. */
  label: string
  /** What is wrong with it. */
  fault: string
  /** In which unit, or what is meant. */
  hint?: string
}
withDefaults(defineProps<Props>(), { hint: '' })
const text = defineModel<string>({ required: true })
</script>

<style scoped>
small {
  font-size: var(--type-least);
  font-weight: 400;
}
</style>
