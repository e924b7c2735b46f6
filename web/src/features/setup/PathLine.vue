<template>
  <section class="path" aria-label="Where the set-up is">
    <div class="job">
      <h2>{{ view.part }}</h2>
      <RichText class="soft small" :parts="view.about" :resolution-mm="view.resolution_mm" />
    </div>
    <ol class="stops">
      <li
        v-for="stop in view.path"
        :key="stop.id"
        :class="[stop.status, { hold: stop.hold }]"
        :aria-current="stop.status === 'now' ? 'step' : undefined"
      >
        {{ stop.title }}
        <span v-if="stop.status === 'done'" class="visually-hidden">done</span>
      </li>
    </ol>
  </section>
</template>

<script setup lang="ts">
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'

interface Props {
  /** The set-up. */
  view: Schemas['SetupView']
}
defineProps<Props>()
</script>

<style scoped>
.path {
  display: flex;
  align-items: center;
  min-height: 60px;
  padding: 0 20px;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
}
.job {
  width: 320px;
  line-height: 1.25;
}
h2 {
  font-size: var(--type-body);
  font-weight: 700;
}
.stops {
  display: flex;
  flex: 1;
}
li {
  position: relative;
  flex: 1;
  padding-top: 24px;
  color: var(--ink-2);
  font-size: var(--type-least);
  font-weight: 520;
  line-height: 1.2;
  text-align: center;
}
li::before {
  position: absolute;
  top: 9px;
  right: 0;
  left: 0;
  height: 3px;
  background: var(--rule);
  content: '';
}
li:first-child::before {
  left: 50%;
}
li:last-child::before {
  right: 50%;
}
li::after {
  position: absolute;
  top: 3px;
  left: 50%;
  width: 14px;
  height: 14px;
  margin-left: -7px;
  border: 3px solid var(--edge);
  border-radius: 50%;
  background: var(--sheet);
  content: '';
}
li.hold::after {
  border-radius: 3px;
  transform: rotate(45deg);
}
li.done::before,
li.done::after {
  background: var(--plum-2);
}
li.done::after {
  border-color: var(--plum-2);
}
li.now {
  color: var(--plum);
  font-weight: 700;
}
li.now::after {
  top: 0;
  width: 20px;
  height: 20px;
  margin-left: -10px;
  border-width: 5px;
  border-color: var(--plum);
}
@media (max-width: 1000px) {
  .job {
    width: 210px;
  }
  li:not(.now) {
    font-size: 0;
  }
}
</style>
