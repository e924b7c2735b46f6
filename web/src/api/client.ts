import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

/** What the server says when something does not work (RFC 9457). */
export type Problem = Schemas['Problem']

// Looked up at each call, so that tests and offline handling can replace it.
export const api = createClient<paths>({
  baseUrl: '',
  fetch: (request: Request) => globalThis.fetch(request),
})

/** Answers of a server that is away, or cannot reach its database: worth another try. */
const AWAY = [408, 502, 503, 504]

/** The server could not be reached, or it could not reach its database: worth another try. */
export class Unreachable extends Error {}

/** The server understood and refused. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/**
 * Data of an answer, or one of the two errors above.
 *
 * @param call a call of `api`
 */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer
  try {
    answer = await call
  } catch {
    throw new Unreachable('The server does not answer.')
  }
  if (answer.data !== undefined) return answer.data
  if (AWAY.includes(answer.response.status)) throw new Unreachable('The server does not answer.')
  throw new Refused(problemOf(answer.error, answer.response.status))
}

/** What the server said; a fault of its own has no words, and must not hold up what waits behind it. */
function problemOf(error: unknown, status: number): Problem {
  if (typeof error === 'object' && error !== null && 'code' in error) return error as Problem
  return {
    type: 'urn:velvet-hand:fault',
    title: 'Something went wrong in the server',
    status,
    detail: 'The server could not take this.',
    code: 'fault',
    fix: 'Drop it, or try it again later; what comes after it goes on.',
    errors: [],
  }
}

/**
 * What to show a person for an error.
 *
 * @param error anything that was thrown by `ask`
 */
export function complaintOf(error: unknown): { detail: string; fix: string } {
  if (error instanceof Refused) return { detail: error.problem.detail, fix: error.problem.fix }
  return { detail: 'The server does not answer.', fix: 'It is tried again; nothing was lost.' }
}

/** The same as one line: what is wrong, and what to do. */
export function wordsOf(error: unknown): string {
  const { detail, fix } = complaintOf(error)
  return `${detail} ${fix}`
}
