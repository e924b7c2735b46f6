<template>
  <div class="frame">
    <TopBar />
    <RouterView v-slot="{ Component, route }">
      <component :is="Component" :key="route.path" />
    </RouterView>
  </div>
</template>

<script setup lang="ts">
import { watchEffect } from 'vue'
import { usePrefs } from '../shared/prefs'
import TopBar from './TopBar.vue'

const prefs = usePrefs()
watchEffect(() => {
  document.documentElement.dataset.theme = prefs.dark ? 'dark' : 'light'
})
</script>

<style scoped>
.frame {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
}
</style>
