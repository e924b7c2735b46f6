import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { expect, it } from 'vitest'

import RichText from './RichText.vue'

it('keeps a percent sign and ± with their figure at the end of a line', () => {
  const words = { kind: 'words' as const, text: '69 ± 29 and 91 ± 3 % stays', strong: false }
  const told = mount(RichText, {
    props: { parts: [words], resolutionMm: 0.001 },
    global: { plugins: [createPinia()] },
  })
  expect(told.text()).toBe('69\u00a0±\u00a029 and 91\u00a0±\u00a03\u00a0% stays')
})
