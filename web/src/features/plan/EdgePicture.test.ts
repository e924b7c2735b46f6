import { mount, type VueWrapper } from '@vue/test-utils'
import { expect, it } from 'vitest'
import EdgePicture from './EdgePicture.vue'

const picture = (more: object = {}): VueWrapper =>
  mount(EdgePicture, {
    props: {
      lies: 'across',
      side: 'near',
      hinge: 'low',
      two: false,
      free: true,
      hint: '',
      told: [],
      fault: () => '',
      ...more,
    },
  })
const at = (wrapper: VueWrapper, words: string) => wrapper.get(`[aria-label="${words}"]`)
const place = (wrapper: VueWrapper, words: string): number[] => {
  const touch = at(wrapper, words).get('rect').attributes()
  return [Number(touch['x']) + 24, Number(touch['y']) + 24]
}

it('says and shows where the indicator stands and which bolt is snug', () => {
  const across = picture()
  expect(across.text()).toContain('The indicator stands in front of it. The left bolt is snug.')
  expect(place(across, 'The indicator stands in front of it')[1]).toBeGreaterThan(101) // nearer to you
  expect(place(across, 'Snug bolt: left')[0]).toBeLessThan(165)
  const along = picture({ lies: 'along' })
  expect(along.text()).toContain('The indicator stands to its right. The front bolt is snug.')
  expect(place(along, 'The indicator stands to its right')[0]).toBeGreaterThan(165)
  expect(place(along, 'Snug bolt: front')[1]).toBeGreaterThan(101)
  expect(picture({ hinge: 'none' }).text()).toContain('No bolt is snug.')
})

it('is chosen from by touch and by keys', async () => {
  const wrapper = picture()
  await at(wrapper, 'The indicator stands behind it').trigger('click')
  await at(wrapper, 'Snug bolt: right').trigger('keydown.enter')
  await at(wrapper, 'Snug bolt: left').trigger('keydown.space')
  await wrapper.get('button').trigger('click')
  expect(wrapper.emitted('choose')).toEqual([
    ['gauge_side', 'far'],
    ['hinge', 'high'],
    ['hinge', 'none'],
    ['lies', 'along'],
  ])
  const fixed = picture({ free: false })
  await at(fixed, 'Snug bolt: left').trigger('click')
  expect(fixed.emitted('choose')).toEqual([['hinge', 'low']])
})

it('asks for no bolt where none is to be snug, and says what is wrong', () => {
  const wrapper = picture({
    hinge: undefined,
    fault: (name: string) => (name === 'choices.lies' ? 'Not so.' : ''),
  })
  expect(wrapper.findAll('.bolt')).toHaveLength(0)
  expect(wrapper.get('[role=alert]').text()).toBe('Not so.')
})
