import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, type WritableComputedRef } from 'vue'
import type { Unit } from './format'

/** To which part of a graduation somebody reads. */
export type ReadTo = 'fifth' | 'half' | 'whole'
const KEY = 'velvet-hand.prefs'

interface Saved {
  unit: Unit
  dark: boolean
  author: string
  /** How finely each person reads a dial. */
  readTo: Record<string, ReadTo>
  /** Was asked who is at this tablet. */
  asked: boolean
  lastSetup: string
  pad: boolean
  /** A live reading is taken by itself when the needle is still. */
  bySelf: boolean
  /** A reading that was taken is said aloud. */
  speaks: boolean
  /** A tone follows the needle to its aim. */
  hums: boolean
}
const prefers = (what: string): boolean => window.matchMedia(what).matches

/** What this browser likes: unit, light, who is at the machine, where it was last. */
export const usePrefs = defineStore('prefs', () => {
  const usual: Saved = {
    unit: 'thou',
    dark: prefers('(prefers-color-scheme: dark)'),
    author: '',
    asked: false,
    readTo: {},
    lastSetup: '',
    pad: prefers('(pointer: coarse)'),
    bySelf: false,
    speaks: false,
    hums: false,
  }
  // What cannot be read is as if nothing had been kept.
  const saved = useLocalStorage<Saved>(KEY, usual, { mergeDefaults: true, onError: () => undefined })
  const one = <K extends keyof Saved>(key: K): WritableComputedRef<Saved[K]> =>
    computed({
      get: () => saved.value[key],
      set: (value) => (saved.value = { ...saved.value, [key]: value }),
    })
  const readTo = computed<ReadTo>({
    get: () => saved.value.readTo[saved.value.author] ?? 'half',
    set: (value) =>
      (saved.value = { ...saved.value, readTo: { ...saved.value.readTo, [saved.value.author]: value } }),
  })
  return {
    readTo,
    unit: one('unit'),
    dark: one('dark'),
    author: one('author'),
    asked: one('asked'),
    lastSetup: one('lastSetup'),
    pad: one('pad'),
    bySelf: one('bySelf'),
    speaks: one('speaks'),
    hums: one('hums'),
  }
})
