import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils'
import { afterEach, beforeEach, vi } from 'vitest'

// All test files share one document (a third of the time): each test finds it as it was at the start, and leaves it so.
disableAutoUnmount()
enableAutoUnmount(afterEach)

// What a test has not answered itself is no network: nothing goes out, neither in the test nor after it.
globalThis.fetch = () => Promise.reject(new TypeError('no network in tests'))

// As browsers have it. Here it would be all of its markup, each time that something asks what kind of a thing it is.
HTMLElement.prototype.toString = () => '[object HTMLElement]'

beforeEach(() => {
  localStorage.clear()
  sessionStorage.clear()
})

afterEach(() => {
  document.body.innerHTML = ''
  vi.useRealTimers()
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
})

// A second is not long on a busy machine: what is waited for comes, or the test ends by its own time.
const waitFor = vi.waitFor.bind(vi)
vi.waitFor = (callback, options = { timeout: 50_000 }) => waitFor(callback, options)
