import { describe, expect, expectTypeOf, it } from 'vitest'
import { checkRows, misfit, rowsOf, type Columns } from './rowsOf'

interface Lot {
  readonly code: string
  readonly state: 'open' | 'closed'
  readonly quantity: number
  readonly supplierId: string | null
  readonly isFree: boolean | number
}
const columns: Columns<Lot> = { code: 'text', state: 'text', quantity: 'number', supplierId: 'text?', isFree: 'flag' }
const row = { code: 'L-1', state: 'open', quantity: 5, supplierId: null, isFree: 1 }
const giving = (...rows: unknown[]) => ({ query: async () => rows })

describe('the rows of a statement', () => {
  it('have the type that its columns say, or the narrower one that they are held against', async () => {
    expectTypeOf(rowsOf(giving(), { id: 'text', sum: 'number?' }, '')).resolves.toEqualTypeOf<{ id: string; sum: number | null }[]>()
    expectTypeOf(rowsOf<Lot>(giving(), columns, '')).resolves.toEqualTypeOf<Lot[]>()
    expect(await rowsOf<Lot>(giving(row), columns, '')).toEqual([row])
  })

  it.each([
    ['a column that is not given', { code: 'L-1' }, 'it gives no state, quantity, supplierId, isFree'],
    ['one that nobody asks for', { ...row, more: 1 }, 'it gives more, which nobody asks for'],
    ['nothing where something has to be', { ...row, code: null }, 'code is empty'],
    ['a number as text', { ...row, quantity: '5' }, 'quantity is a string and no number'],
    ['a flag that is none', { ...row, isFree: 2 }, 'isFree is 2 and no flag'],
  ])('are held against them: %s', async (_, wrong, words) => {
    expect(misfit(wrong, columns)).toBe(words)
    checkRows()
    await expect(rowsOf<Lot>(giving(row, wrong), columns, 'SELECT 1')).rejects.toThrow(words)
  })

  it('that fit are given as they are', () => {
    expect(misfit(row, columns)).toBeNull()
    expect(misfit({ ...row, supplierId: 'S' }, columns)).toBeNull()
  })
})
