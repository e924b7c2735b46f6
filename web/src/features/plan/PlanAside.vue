<template>
  <aside class="side">
    <section>
      <h2 class="label">To know before you start</h2>
      <p v-if="!checked" class="soft">Fill in part, diameter and limit.</p>
      <p v-else-if="!told.length" class="fine">Nothing against it.</p>
      <p v-else-if="told.length === 1">One thing to know. It stands at its field.</p>
      <p v-else>{{ told.length }} things to know. They stand at their fields.</p>
      <RichText
        v-if="checked && expect.length"
        class="expect"
        tag="p"
        :parts="expect"
        :resolution-mm="0.001"
      />
      <p v-if="general" class="fault" role="alert">{{ general }}</p>
    </section>
    <section v-if="needs" class="needs">
      <h2 class="label">What it needs</h2>
      <p v-for="(words, what) in needs" :key="what">{{ words }}</p>
    </section>
    <button class="button" type="button" :disabled="!checked" @click="emit('sheet')">Print its sheet</button>
    <button class="button main" type="button" :disabled="sending" @click="emit('open')">
      Open the set-up <kbd>Ctrl Enter</kbd>
    </button>
  </aside>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'

interface Props {
  /** Was the plan looked at, and can it work? */
  checked: boolean
  /** What is to be told at the start. */
  told: Schemas['Caveat'][]
  /** How many passes and minutes to expect; empty where nobody can say. */
  expect: Schemas['PlanOut']['expect']
  /** What is wrong with it as a whole. */
  general: string
  /** What the procedure needs, in words. */
  needs: Schemas['Needs'] | undefined
  /** It is on its way. */
  sending: boolean
}
defineProps<Props>()
const emit = defineEmits<{ open: []; sheet: [] }>()
</script>

<style scoped>
.expect {
  margin-top: 8px;
}
.needs {
  flex: 1;
}
.needs p {
  margin-top: 8px;
}
.fine {
  margin-top: 8px;
  color: var(--holds);
  font-weight: 650;
}
</style>
