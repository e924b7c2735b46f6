<template>
  <nav class="sums" aria-label="Sums">
    <label class="visually-hidden" for="find-sum">Find a sum by any word</label>
    <span class="find">
      <el-input
        id="find-sum"
        ref="field"
        v-model="asked"
        placeholder="taper, shim…"
        autocomplete="off"
        @keydown.enter.prevent="go(found[0]?.id)"
        @keydown.down.prevent="focusOn(0)"
      >
        <template #suffix><kbd>/</kbd></template>
      </el-input>
    </span>
    <p v-if="asked && !found.length" class="none">
      Nothing is called that. <button class="button" type="button" @click="asked = ''">Show all</button>
    </p>
    <div class="scroll">
      <section v-for="family in families" :key="family.name">
        <h2 class="label">{{ family.name }}</h2>
        <RouterLink
          v-for="one in family.sums"
          :key="one.id"
          ref="links"
          :to="`/work-it-out/${one.id}`"
          :class="{ on: one.id === now }"
          :aria-current="one.id === now ? 'page' : undefined"
        >
          <b>{{ one.title }}</b>
          <span class="soft small">{{ one.about }}</span>
        </RouterLink>
      </section>
    </div>
  </nav>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'

interface Props {
  /** All sums. */
  sums: readonly Schemas['SumLine'][]
  /** The one that is shown. */
  now: string
}
const props = defineProps<Props>()
const router = useRouter()
const asked = ref('')
const field = ref<{ select: () => void }>()

/** Those whose words have all that was typed, words in any order. */
const found = computed(() => {
  const words = asked.value.toLowerCase().split(/\s+/).filter(Boolean)
  return props.sums.filter((one) => words.every((word) => one.words.includes(word)))
})
const families = computed(() =>
  [...new Set(found.value.map((one) => one.family))].map((name) => ({
    name,
    sums: found.value.filter((one) => one.family === name),
  })),
)

/** The sum that is shown is in sight, wherever it was come from. */
watch(
  () => [props.now, props.sums.length],
  () => void nextTick(() => document.querySelector('.sums a.on')?.scrollIntoView({ block: 'nearest' })),
  { immediate: true },
)

function go(id: string | undefined): void {
  if (id) void router.push(`/work-it-out/${id}`)
}
function focusOn(index: number): void {
  void nextTick(() => document.querySelectorAll<HTMLElement>('.sums a')[index]?.focus())
}
defineExpose({ focus: () => field.value?.select() })
</script>

<style scoped>
.sums {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  border-right: 1px solid var(--rule);
  background: var(--sheet);
}
.find {
  padding: 14px 14px 8px;
}
.scroll {
  overflow-y: auto;
}
h2 {
  padding: 12px 14px 4px;
}
a {
  display: grid;
  align-content: center;
  min-height: 48px;
  padding: 6px 14px;
  border-left: 4px solid transparent;
  color: var(--ink);
  line-height: 1.25;
  text-decoration: none;
}
a.on {
  border-left-color: var(--plum);
  background: var(--plum-wash);
  color: var(--plum);
}
.none {
  padding: 8px 14px;
}
</style>
