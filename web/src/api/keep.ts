import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Schemas } from './client'
import type { Entry } from './outbox'

interface Boxes extends DBSchema {
  outbox: { key: number; value: Entry }
  views: { key: string; value: { id: string; at: number; view: Schemas['SetupView'] } }
}

/** Set-ups that are kept for a page that is opened while the server is away. */
const VIEWS = 12

let opened: Promise<IDBPDatabase<Boxes>> | undefined

/** The browser's own database: events on their way, and each set-up as it was seen last. */
export function database(): Promise<IDBPDatabase<Boxes>> {
  opened ??= openDB<Boxes>('velvet-hand', 2, {
    upgrade: (db, from) => {
      if (from < 1) db.createObjectStore('outbox', { keyPath: 'key', autoIncrement: true })
      if (from < 2) db.createObjectStore('views', { keyPath: 'id' })
    },
  })
  return opened
}

/** Remember a set-up as it is seen now. */
export async function keepView(view: Schemas['SetupView']): Promise<void> {
  const db = await database()
  await db.put('views', { id: view.id, at: Date.now(), view })
  const all = await db.getAll('views')
  for (const old of all.sort((a, b) => b.at - a.at).slice(VIEWS)) await db.delete('views', old.id)
}

/** A set-up as it was seen last, if it was. */
export async function keptView(id: string): Promise<Schemas['SetupView'] | undefined> {
  return (await (await database()).get('views', id))?.view
}
