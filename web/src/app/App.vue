<template>
  <div class="frame">
    <TopBar />
    <RouterView v-slot="{ Component, route }">
      <component :is="Component" :key="route.name === 'work' ? 'work' : route.path" />
    </RouterView>
  </div>
</template>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { usePrefs } from '../shared/prefs'
import TopBar from './TopBar.vue'

const prefs = usePrefs()
watchEffect(() => {
  document.documentElement.dataset.theme = prefs.dark ? 'dark' : 'light'
})

const router = useRouter()
/** One key from anywhere; not where somebody is typing, nor over a dialog. */
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const target = event.target as HTMLElement
  const typing = target.matches('input, textarea') && (target as HTMLInputElement).value !== ''
  if (event.key !== '=' || event.ctrlKey || event.metaKey || event.altKey || typing) return
  if (target.matches('textarea, select') || document.querySelector('[role=dialog]:not([style*="none"])'))
    return
  event.preventDefault()
  void router.push('/work-it-out')
})
</script>

<style scoped>
.frame {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
}
</style>
