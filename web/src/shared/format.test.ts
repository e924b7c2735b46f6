import { describe, expect, it } from 'vitest'
import cases from '../../../tests/cases/format.json'
import { formatAgo, formatDate, formatDay, formatLength, formatSize, plain, type Unit } from './format'

describe('lengths', () => {
  it.each(cases)('rounds $mm mm in $unit as the core does', ({ mm, unit, resolution_mm, signed, text }) => {
    expect(formatLength(mm, unit as Unit, resolution_mm, signed)).toBe(text)
  })
  it('shows sizes in inches where the shop works in thou', () => {
    expect(formatSize(62, 'thou')).toBe('2.441 in')
    expect(formatSize(62, 'mm')).toBe('62.00 mm')
    expect(formatSize(40.0125, 'mm', true)).toBe('40.013 mm')
    expect(formatSize(62, 'tenth', true)).toBe('2.4409 in')
  })
  it('puts words, lengths and angles together', () => {
    const parts = [
      { kind: 'words' as const, text: 'aim ', strong: false },
      { kind: 'length' as const, mm: -0.11176, signed: true, size: false, exact: false, bare: false },
      { kind: 'angle' as const, deg: 23.6 },
    ]
    expect(plain(parts, 'thou', 0.00254)).toBe('aim \u22124.4 thou24°')
  })
  it('leaves the unit of a bare length to the one behind it', () => {
    const length = {
      kind: 'length' as const,
      mm: 0.0254,
      signed: false,
      size: false,
      exact: false,
      bare: true,
    }
    expect(plain([length], 'thou', 0.00254)).toBe('1.0')
  })
})

describe('how long ago', () => {
  it.each([
    [0, 'just now'],
    [1, '1 minute'],
    [89, '89 minutes'],
    [120, '2 hours'],
    [60 * 24 * 3, '3 days'],
  ])('%i minutes', (minutes, words) => {
    const now = Date.now()
    expect(formatAgo(new Date(now - minutes * 60000).toISOString(), now)).toBe(words)
  })
})

it('says a day as the server does', () => {
  expect(formatDate('2026-09-24T12:00:00Z')).toBe('24 Sep 2026')
  expect(formatDate('2026-11-05T12:00:00Z')).toBe('5 Nov 2026')
  expect(formatDay('2026-09-24T12:00:00Z')).toMatch(/^24 Sep, \d\d:\d\d$/)
})
