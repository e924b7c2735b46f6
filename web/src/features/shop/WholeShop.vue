<template>
  <section class="whole" aria-labelledby="whole">
    <div>
      <h2 id="whole">Everything in one file</h2>
      <p class="soft small">
        Shop and set-ups, as a zip of JSON: to keep elsewhere, or for another installation to read back.
      </p>
    </div>
    <a class="button" href="/api/archive" download>Take it with you</a>
    <FileButton
      label="Read one back"
      busy-label="Reading it…"
      accept=".zip,application/zip"
      :send="read"
      @fault="((fault = $event), (done = ''))"
    />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else class="done" role="status">{{ done }}</p>
  </section>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { Refused, type Problem, type Schemas } from '../../api/client'
import FileButton from '../../shared/components/FileButton.vue'

const emit = defineEmits<{ read: [] }>()
const fault = ref('')
const done = ref('')

/** What was added, in a sentence. */
function told(taken: Schemas['TakenOut']): string {
  if (!taken.things && !taken.setups) return 'Nothing new in it: all of that is here already.'
  const many = (count: number, one: string, more: string): string => `${count} ${count === 1 ? one : more}`
  return `Read back: ${many(taken.things, 'thing', 'things')} of the Shop and ${many(taken.setups, 'set-up', 'set-ups')}.`
}

async function read(file: File): Promise<void> {
  const headers = { 'Content-Type': 'application/zip' }
  const answer = await fetch('/api/archive', { method: 'POST', headers, body: file })
  const body = (await answer.json()) as unknown
  if (!answer.ok) throw new Refused(body as Problem)
  done.value = told(body as Schemas['TakenOut'])
  emit('read')
}
</script>

<style scoped>
.whole {
  display: flex;
  flex-wrap: wrap;
  grid-column: 1 / -1;
  gap: 8px 12px;
  align-items: center;
  padding-top: 14px;
  border-top: 1px solid var(--rule);
}
.whole > div {
  flex: 1 1 320px;
}
h2 {
  font-size: var(--type-lead);
}
.done,
.fault {
  flex: 1 1 100%;
}
.done:empty {
  display: none;
}
</style>
