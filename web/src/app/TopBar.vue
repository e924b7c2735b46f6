<template>
  <header class="bar">
    <RouterLink class="mark" to="/" aria-label="Velvet Hand, to the Bench">
      <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true">
        <path d="M3 18c4 0 5-9 9-9s5 9 9 9" class="wave" />
        <circle cx="12" cy="5" r="2.4" class="dot" />
      </svg>
      <span>Velvet Hand</span>
    </RouterLink>
    <nav aria-label="Places">
      <RouterLink to="/" :class="{ on: here === 'bench' }">Bench</RouterLink>
      <RouterLink to="/job" :class="{ on: here === 'job' || here === 'plan' }">Plan</RouterLink>
      <RouterLink v-if="prefs.lastSetup" :to="`/set-up/${prefs.lastSetup}`" :class="{ on: here === 'setup' }">
        Set-up
      </RouterLink>
      <RouterLink to="/work-it-out" title="=" :class="{ on: here === 'work' }">Work it out</RouterLink>
      <RouterLink to="/practice" :class="{ on: ['practice', 'practicing', 'schools'].includes(here) }"
        >Practice</RouterLink
      >
      <RouterLink to="/logbook" :class="{ on: ['logbook', 'log', 'compare', 'history'].includes(here) }"
        >Logbook</RouterLink
      >
      <RouterLink to="/shop" :class="{ on: here === 'shop' }">Shop</RouterLink>
    </nav>
    <div class="right">
      <span v-if="outbox.waiting.length" class="waiting" role="status">
        {{ outbox.waiting.length }} waiting to go up
      </span>
      <fieldset class="units">
        <legend class="visually-hidden">Unit</legend>
        <label v-for="unit in UNITS" :key="unit.id" :class="{ on: prefs.unit === unit.id }">
          <input v-model="prefs.unit" type="radio" name="unit" :value="unit.id" />{{ unit.word }}
        </label>
      </fieldset>
      <label class="who">
        <span class="visually-hidden">Who is at the machine</span>
        <input v-model.trim="prefs.author" maxlength="40" placeholder="Your name" autocomplete="name" />
      </label>
      <button class="theme" type="button" :aria-pressed="prefs.dark" @click="prefs.dark = !prefs.dark">
        {{ prefs.dark ? 'Light' : 'Dim' }}
      </button>
    </div>
  </header>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useOutbox } from '../api/outbox'
import { UNITS } from '../shared/format'
import { usePrefs } from '../shared/prefs'

const prefs = usePrefs()
const outbox = useOutbox()
const route = useRoute()
const here = computed(() => String(route.name ?? ''))
</script>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 20px;
  height: 56px;
  padding: 0 20px;
  border-bottom: 1px solid var(--rule);
}
.mark {
  display: flex;
  align-items: center;
  gap: 9px;
  color: var(--plum);
  font-size: var(--type-lead);
  font-weight: 750;
  letter-spacing: -0.01em;
  text-decoration: none;
  white-space: nowrap;
}
.wave {
  fill: none;
  stroke: var(--plum);
  stroke-width: 3;
  stroke-linecap: round;
}
.dot {
  fill: var(--brass);
}
nav {
  display: flex;
  gap: 2px;
}
nav a {
  display: flex;
  align-items: center;
  min-height: 48px;
  padding: 0 12px;
  border-radius: 6px;
  color: var(--ink-2);
  font-weight: 550;
  text-decoration: none;
}
nav a.on {
  background: var(--plum-wash);
  color: var(--plum);
}
.right {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-left: auto;
}
.waiting {
  padding: 4px 10px;
  border: 1px dashed var(--unsure);
  border-radius: 6px;
  color: var(--unsure);
  font-size: var(--type-body);
  font-weight: 600;
}
.units {
  display: flex;
  margin: 0;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  overflow: hidden;
}
.units label {
  display: flex;
  align-items: center;
  min-height: 46px;
  padding: 0 11px;
  color: var(--ink-2);
  font-size: var(--type-body);
  cursor: pointer;
}
.units label.on {
  background: var(--plum-wash);
  color: var(--plum);
  font-weight: 700;
}
.units input {
  position: absolute;
  opacity: 0;
  pointer-events: none;
}
.units label:has(:focus-visible) {
  outline: 3px solid var(--brass);
  outline-offset: -3px;
}
.who input {
  width: 108px;
  min-height: 48px;
  padding: 0 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--type-body);
}
.theme {
  min-width: 56px;
  min-height: 48px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--type-body);
  cursor: pointer;
}
nav a {
  white-space: nowrap;
}
@media (max-width: 1180px) {
  .units label {
    padding: 0 8px;
  }
  .mark span {
    display: none;
  }
  .bar {
    gap: 10px;
    padding: 0 10px;
  }
  .who input {
    width: 84px;
  }
  nav a {
    padding: 0 8px;
  }
  .right {
    gap: 8px;
  }
}
@media (max-width: 900px) {
  .units label {
    padding: 0 5px;
    font-size: var(--type-least);
  }
  .bar {
    gap: 6px;
    padding: 0 6px;
  }
  .who input {
    width: 64px;
    padding: 0 6px;
  }
  .theme {
    min-width: 48px;
  }
  nav {
    gap: 0;
  }
  nav a {
    padding: 0 5px;
    font-size: var(--type-least);
  }
  .right {
    gap: 6px;
  }
}
</style>
