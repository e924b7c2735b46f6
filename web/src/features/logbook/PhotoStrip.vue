<template>
  <section class="photos" aria-label="Photos">
    <ul v-if="data?.photos.length">
      <li v-for="(photo, n) in data.photos" :key="photo.id">
        <a :href="`/api/photos/${photo.id}`" target="_blank">
          <img
            :src="`/api/photos/${photo.id}`"
            :alt="`Photo ${n + 1}, ${formatDay(photo.at)}${photo.author && `, by ${photo.author}`}`"
            :width="Math.round((HIGH * photo.width) / photo.height)"
            :height="HIGH"
            loading="lazy"
          />
        </a>
        <button class="button" type="button" :aria-label="`Take photo ${n + 1} away`" @click="away(photo.id)">
          {{ sure === photo.id ? 'Sure?' : 'Take away' }}
        </button>
      </li>
    </ul>
    <FileButton
      label="Add a photo"
      busy-label="Sending it…"
      accept="image/*"
      capture="environment"
      :send="add"
      @fault="fault = $event"
    />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </section>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { api, ask, Refused, wordsOf, type Problem } from '../../api/client'
import { uuid } from '../../api/uuid'
import FileButton from '../../shared/components/FileButton.vue'
import { formatDay } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { useLatest } from '../../shared/useLatest'

interface Props {
  /** The set-up. */
  id: string
}
const props = defineProps<Props>()
const prefs = usePrefs()
const HIGH = 120
const fault = ref('')
/** Which photo was asked to go; asked once more, it goes. */
const sure = ref('')
const path = { setup_id: props.id }
const { data, run } = useLatest(() => ask(api.GET('/api/setups/{setup_id}/photos', { params: { path } })))
void run()

async function add(file: File): Promise<void> {
  const query = new URLSearchParams({ id: uuid(), author: prefs.author })
  const answer = await fetch(`/api/setups/${props.id}/photos?${query}`, { method: 'POST', body: file })
  if (!answer.ok) throw new Refused((await answer.json()) as Problem)
  await run()
}

async function away(photo_id: string): Promise<void> {
  if (sure.value !== photo_id) {
    sure.value = photo_id
    return
  }
  sure.value = ''
  try {
    await ask(
      api.DELETE('/api/setups/{setup_id}/photos/{photo_id}', { params: { path: { ...path, photo_id } } }),
    )
    await run()
  } catch (error) {
    fault.value = wordsOf(error)
  }
}
</script>

<style scoped>
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
  margin-bottom: 18px;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  gap: 6px;
}
img {
  display: block;
  border: 1px solid var(--rule);
}
</style>
