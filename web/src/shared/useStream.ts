import { onScopeDispose, type Ref } from 'vue'
import { useHearing, type News } from './hearing'

/**
 * Hear what changed anywhere while this page is in view.
 *
 * @param changed called with the set-ups and their last events; without any when something may have been missed: the tab is seen
 *   again, the server is back
 */
export function useStream(changed: (news?: readonly News[]) => void): { live: Ref<boolean> } {
  const hearing = useHearing()
  const stops = [hearing.changed.on((news) => changed(news)), hearing.missed.on(() => changed())]
  onScopeDispose(() => stops.forEach(({ off }) => off()))
  return { live: hearing.live }
}
