import type { Schemas } from '../../api/client'
import type { Entry } from '../../api/outbox'
import { bareLength, type Unit } from '../format'

/** A cell of the tray with what still waits in this browser for it. */
export interface TrayCell {
  cell: Schemas['Cell']
  waiting?: Entry
}

/** What somebody typed into a cell, whether it went up already or not. */
export function typedOf(item: TrayCell | undefined): string {
  const body = item?.waiting?.event.body
  if (body?.type === 'reading_taken' || body?.type === 'reading_corrected') return body.typed.text
  return item?.cell.typed ?? ''
}

/** What a cell shows: its needle value in the shop's unit, or what was typed. */
export function shownIn(item: TrayCell, unit: Unit, res: number): string {
  const { cell } = item
  if (item.waiting) return typedOf(item)
  if (cell.reads === 'degrees') return cell.typed === null ? '' : `${cell.typed.replace('°', '')}°`
  if (cell.needle_mm !== null) return bareLength(cell.needle_mm, unit, res, cell.reads === 'needle') || '0'
  return cell.state === 'bad' ? '×' : (cell.typed ?? '')
}
