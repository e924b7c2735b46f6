import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import type { Unit } from './format'

const KEY = 'velvet-hand.prefs'

interface Saved {
  unit: Unit
  dark: boolean
  author: string
  lastSetup: string
  pad: boolean
}

function saved(): Partial<Saved> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Saved>
  } catch {
    return {}
  }
}

/** What this browser likes: unit, light, who is at the machine, where it was last. */
export const usePrefs = defineStore('prefs', () => {
  const start = saved()
  const unit = ref<Unit>(start.unit ?? 'thou')
  const dark = ref(start.dark ?? window.matchMedia('(prefers-color-scheme: dark)').matches)
  const author = ref(start.author ?? '')
  const lastSetup = ref(start.lastSetup ?? '')
  const pad = ref(start.pad ?? window.matchMedia('(pointer: coarse)').matches)
  watch([unit, dark, author, lastSetup, pad], () => {
    const now: Saved = {
      unit: unit.value,
      dark: dark.value,
      author: author.value,
      lastSetup: lastSetup.value,
      pad: pad.value,
    }
    localStorage.setItem(KEY, JSON.stringify(now))
  })
  return { unit, dark, author, lastSetup, pad }
})
