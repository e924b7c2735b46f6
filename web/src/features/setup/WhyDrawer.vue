<template>
  <el-drawer v-model="open" title="Why won’t it come in?" size="520px" append-to-body>
    <div v-if="why" class="why">
      <RichText tag="h2" class="head" :parts="why.headline" :resolution-mm="res" data-part="why" />
      <section v-if="why.test" class="test" aria-label="Quick test">
        <p class="label">Quick test · {{ why.test.title }}</p>
        <p class="how">{{ why.test.how }}</p>
        <div class="answers">
          <button
            v-for="answer in why.test.answers"
            :key="answer.id"
            class="button"
            type="button"
            :disabled="busy"
            @click="emit('send', [...answer.events])"
          >
            {{ answer.label }} <kbd>{{ answer.key }}</kbd>
          </button>
        </div>
      </section>
      <ol class="suspects">
        <li v-for="one in why.suspects" :key="one.cause">
          <p class="name">
            <b>{{ one.title }}</b> <span class="soft">{{ one.chance }}</span>
          </p>
          <div class="bar"><div :style="{ width: `${100 * one.share}%` }"></div></div>
          <RichText
            v-for="(line, index) in one.because"
            :key="index"
            tag="p"
            class="soft"
            :parts="line"
            :resolution-mm="res"
          />
          <p>{{ one.mend }}</p>
        </li>
      </ol>
      <template v-if="why.tried.length">
        <p class="label">Tests made in this pass</p>
        <RichText
          v-for="(line, index) in why.tried"
          :key="index"
          tag="p"
          class="soft"
          :parts="line"
          :resolution-mm="res"
        />
      </template>
    </div>
    <p v-else-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else class="soft">Looking…</p>
  </el-drawer>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, watch } from 'vue'
import { api, ask } from '../../api/client'
import type { Body } from '../../api/outbox'
import RichText from '../../shared/components/RichText.vue'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** The set-up. */
  id: string
  /** The last event that it shows. */
  seq: number
  /** The finest step worth showing, mm. */
  res: number
  /** Something is on its way; wait. */
  busy: boolean
}
const props = defineProps<Props>()
const emit = defineEmits<{ send: [bodies: Body[]] }>()
const open = defineModel<boolean>({ required: true })
const {
  data: why,
  fault: complaint,
  run,
} = useLatest(() => ask(api.GET('/api/setups/{setup_id}/why', { params: { path: { setup_id: props.id } } })))
const fault = computed(() => complaint.value && `${complaint.value.detail} ${complaint.value.fix}`)
watch([open, () => props.seq], ([now]) => {
  if (now) void run()
})

useEventListener(document, 'keydown', (event) => {
  const answer = open.value && !props.busy && why.value?.test?.answers.find((a) => a.key === event.key)
  if (!answer) return
  event.preventDefault()
  emit('send', [...answer.events])
})
</script>

<style scoped>
.why {
  display: grid;
  gap: 16px;
}
.head {
  margin: 0;
}
.test {
  display: grid;
  gap: 8px;
  padding: 14px 16px;
  border: 2px solid var(--plum);
  border-radius: 10px;
}
.how {
  margin: 0;
}
.answers {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.answers .button {
  flex: 1 1 auto;
}
.suspects {
  display: grid;
  gap: 14px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.suspects p {
  margin: 0;
}
.name {
  display: flex;
  gap: 10px;
  align-items: baseline;
  justify-content: space-between;
}
.bar {
  height: 6px;
  margin: 4px 0;
  border-radius: 3px;
  background: var(--rule);
}
.bar div {
  height: 100%;
  border-radius: 3px;
  background: var(--plum);
}
</style>
