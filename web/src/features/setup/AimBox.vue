<template>
  <div v-if="panel.aim && panel.aim.aim_mm !== null" class="aim" data-part="aim">
    <div>
      <p class="label">{{ panel.aim.what === 'gap' ? 'Gap' : 'Needle' }} now, {{ panel.aim.label }}</p>
      <p class="big num">{{ needle(panel.aim.now_mm) }}</p>
    </div>
    <svg viewBox="0 0 120 26" aria-hidden="true">
      <line x1="4" x2="100" y1="13" y2="13" />
      <path d="M96 4l18 9-18 9z" />
    </svg>
    <div class="end">
      <p class="label">Aim, {{ panel.aim.label }}</p>
      <p class="big num gold">
        {{ needle(panel.aim.aim_mm) }} <small>{{ unitWord(prefs.unit) }}</small>
      </p>
    </div>
  </div>

  <p v-if="panel.expect" class="aim expect" data-part="expect">
    <span class="label">Expect afterwards</span>
    <span class="big num gold">{{ bareLength(panel.expect.mm, prefs.unit, res) }}</span>
    <span class="gold of">{{ unitWord(prefs.unit) }} {{ panel.expect_word }}</span>
  </p>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { bareLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  /** What to do now, with the needle’s aim if there is one. */
  panel: Schemas['Panel']
  /** The finest step worth showing, mm. */
  res: number
}
const props = defineProps<Props>()
const prefs = usePrefs()
const needle = (mm: number | null): string =>
  mm === null ? '–' : bareLength(mm, prefs.unit, props.res, props.panel.aim?.what !== 'gap')
</script>

<style scoped>
.aim {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 6px 16px;
  border-radius: 8px;
  background: var(--brass-wash);
}
.aim svg {
  flex: 0 1000 110px; /* it gives way before the words do */
  min-width: 24px;
}
.aim line {
  stroke: var(--brass);
  stroke-width: 4;
}
.aim path {
  fill: var(--brass);
}
.end {
  text-align: right;
}
.expect {
  justify-content: flex-start;
  gap: 12px;
}
.of {
  font-weight: 600;
}
.big {
  white-space: nowrap;
  font-size: var(--type-big);
  font-weight: 650;
  letter-spacing: -0.03em;
  line-height: 1.1;
}
.big small {
  font-size: var(--type-body);
}
.gold {
  color: var(--brass-ink);
}
</style>
