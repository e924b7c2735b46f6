import type { Router } from 'vue-router'

/**
 * Have the service worker keep every file that was loaded, so that the application opens while the
 * server is away. Only where browsers allow it: on this machine, or over https.
 */
export function keepOffline(router: Router): void {
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return
  const tell = async (): Promise<void> => {
    const ready = await navigator.serviceWorker.ready
    const files = performance
      .getEntriesByType('resource')
      .map((entry) => new URL(entry.name))
      .filter((url) => url.origin === location.origin && url.pathname.startsWith('/assets/'))
    ready.active?.postMessage({ keep: ['/', ...new Set(files.map((url) => url.pathname))] })
  }
  void navigator.serviceWorker.register('/sw.js')
  router.afterEach(() => setTimeout(() => void tell(), 800))
}
