<template>
  <label class="field" :class="{ wrong: fault }">
    <span class="label-line"
      ><b>{{ label }}</b> <small v-if="hint" class="soft">{{ hint }}</small></span
    >
    <input
      v-model="text"
      class="line"
      :aria-label="label"
      autocomplete="off"
      :aria-invalid="Boolean(fault)"
    />
    <b v-if="fault" class="fault small" role="alert">{{ fault }}</b>
  </label>
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
.field {
  display: grid;
  gap: 4px;
  align-content: start;
}
span {
  color: var(--ink-2);
  font-size: var(--type-body);
  font-weight: 600;
}
small {
  font-size: var(--type-least);
  font-weight: 400;
}
.wrong input {
  border-color: var(--out);
}
.fault {
  font-weight: 500;
}
</style>
