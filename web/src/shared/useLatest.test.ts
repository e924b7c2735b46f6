import { expect, it } from 'vitest'
import { Unreachable } from '../api/client'
import { useLatest } from './useLatest'

it('drops a late answer that a newer call has overtaken', async () => {
  const waiting: ((value: string) => void)[] = []
  const { data, run } = useLatest(() => new Promise<string>((resolve) => waiting.push(resolve)))
  const [first, second] = [run(), run()]
  waiting[1]?.('new')
  await second
  waiting[0]?.('old')
  await first
  expect(data.value).toBe('new')
})

it('says in words that the server is away and keeps what it had', async () => {
  let away = false
  const { data, fault, run } = useLatest(() =>
    away ? Promise.reject(new Unreachable('gone')) : Promise.resolve('kept'),
  )
  await run()
  away = true
  await run()
  expect(data.value).toBe('kept')
  expect(fault.value?.detail).toContain('does not answer')
})
