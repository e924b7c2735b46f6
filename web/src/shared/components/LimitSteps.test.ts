import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import LimitSteps from './LimitSteps.vue'

it('stands above the line of the limit until a pass is within it, and never out of the frame', () => {
  const drawn = mount(LimitSteps, { props: { ofLimit: [4000, 10, 1, 0.5, 0] } })
  const heights = drawn.findAll('circle').map((dot) => Number(dot.attributes('cy')))
  const limit = Number(
    drawn
      .find('.limit')
      .attributes('d')
      ?.match(/ (-?\d+)H/)?.[1],
  )
  expect(heights.map((y) => Math.sign(limit - y))).toEqual([1, 1, 0, -1, -1])
  expect(heights.every((y) => Math.abs(y) < 45)).toBe(true)
  expect(heights).toEqual([...heights].sort((a, b) => a - b))
  expect(drawn.attributes('aria-label')).toBe('What 5 passes found, the last within the limit')
})

it('says of a single pass that it is beyond', () => {
  const drawn = mount(LimitSteps, { props: { ofLimit: [1.2] } })
  expect(drawn.attributes('aria-label')).toBe('What one pass found: beyond the limit')
  expect(drawn.find('polyline').exists()).toBe(false)
})
