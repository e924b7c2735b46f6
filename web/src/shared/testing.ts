import type { Schemas } from '../api/client'

/** A thing of the Shop for tests: no more than its name and its kind. */
export const plainItem = (
  id: string,
  kind: string,
  more: Partial<Schemas['ItemOut']> = {},
): Schemas['ItemOut'] => ({
  id,
  name: id,
  kind,
  about: [],
  remembers: [],
  found: [],
  typed: {},
  ...more,
})
