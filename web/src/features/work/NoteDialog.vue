<template>
  <el-dialog v-model="open" title="Note it in a set-up" width="560px" append-to-body @open="run()">
    <p class="what">{{ note }}</p>
    <p v-if="fault" class="fault" role="alert">{{ fault.detail }} {{ fault.fix }}</p>
    <p v-else-if="data && !standing.length">No set-up stands on a machine now. Copy the link instead.</p>
    <button v-for="item in standing" :key="item.id" class="button" type="button" @click="take(item.id)">
      <b>{{ item.summary.part }}</b> · {{ item.summary.holder }}
    </button>
  </el-dialog>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { api, ask } from '../../api/client'
import { useOutbox } from '../../api/outbox'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** What is to be noted. */
  note: string
}
const props = defineProps<Props>()
const emit = defineEmits<{ noted: [] }>()
const open = defineModel<boolean>({ required: true })
const prefs = usePrefs()
const outbox = useOutbox()
const { data, fault, run } = useLatest(() => ask(api.GET('/api/bench')))
const standing = computed(() => data.value?.stands.flatMap((stand) => stand.standing) ?? [])

function take(id: string): void {
  void outbox.put(id, { type: 'noted', text: props.note }, prefs.author)
  open.value = false
  emit('noted')
}
</script>

<style scoped>
.what {
  margin-bottom: 12px;
  padding: 10px 14px;
  border-left: 4px solid var(--brass);
  background: var(--well);
}
.button {
  justify-content: flex-start;
  width: 100%;
  margin: 0 0 8px;
  gap: 6px;
}
</style>
