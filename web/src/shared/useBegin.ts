import { useRouter } from 'vue-router'
import { api, ask, type Schemas } from '../api/client'
import { uuid } from '../api/uuid'
import { usePrefs } from './prefs'

/** What is practiced: a drill, or what comes after a step of a logged set-up; and how much advice is given. */
type Asked = Pick<Schemas['BeginIn'], 'drill' | 'advice' | 'past'>

/** Begins a practice and goes there; one that is begun again under the same id is begun once. */
export function useBegin(): (asked: Asked, id?: string) => Promise<void> {
  const router = useRouter()
  const prefs = usePrefs()
  return async (asked, id = uuid()) => {
    await ask(api.POST('/api/practices', { body: { ...asked, id, author: prefs.author, unit: prefs.unit } }))
    await router.push(`/practice/${id}`)
  }
}
