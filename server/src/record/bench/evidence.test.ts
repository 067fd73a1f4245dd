import { endpoints, type EvidenceInput } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decideAll, inspect, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { smallPicture } from '../../testing/smallPicture'

const { define, record } = endpoints
let plant: Plant
let goods: Stock
const kept: Record<string, string> = {}
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.point((await goods.plan('PL', [{ characteristicId: goods.measured.id }, { characteristicId: goods.judged.id }])).id)
  for (const code of ['PORE', 'LAP']) await goods.make(define.faultCodes, { code, name: `${code} to be seen`, isActive: code === 'PORE' })
  const inspector = await plant.as('inspector')
  const keep = async (name: string, mediaType: 'image/png' | 'application/pdf', content: Buffer) =>
    (kept[mediaType] = (await inspector.call(define.addDocument, { body: { name, mediaType, content: content.toString('base64') } })).id)
  await keep('piece.png', 'image/png', smallPicture())
  await keep('piece.pdf', 'application/pdf', Buffer.from('%PDF-1.4'))
})
afterAll(() => plant.stop())

async function bench() {
  const inspector = await plant.as('inspector')
  const id = (await receive(plant, goods)).lots[0]?.inspections[0]?.id ?? ''
  const load = () => inspector.call(record.getInspection, { params: { id } })
  const { lines } = await load()
  const nothing = { lineId: lines[0]?.id ?? '', piece: 1, faultCode: null, count: null, words: '', documentId: null, place: null }
  return {
    id,
    load,
    say: (change: Partial<EvidenceInput>) => inspector.call(record.addEvidence, { params: { id }, body: { ...nothing, ...change } }),
    withdraw: (evidenceId: string) => inspector.call(record.withdrawEvidence, { params: { id: evidenceId }, body: { reason: 'the wrong piece' } }),
  }
}

describe('what is said of a piece beyond its answer', () => {
  it('is a fault and how often, words, a picture and the place on it: of a piece, a line, or all; and it is on paper', async () => {
    const at = await bench()
    await at.say({ faultCode: 'PORE', count: 3, documentId: kept['image/png'] ?? '', place: { x: 250, y: 1000 } })
    await at.say({ piece: null, words: 'all of them wet' })
    const { evidence } = await at.say({ lineId: null, piece: null, documentId: kept['application/pdf'] ?? '' })
    expect(evidence).toMatchObject([
      { piece: 1, faultCode: 'PORE', faultName: 'PORE to be seen', count: 3, document: { name: 'piece.png' }, place: { x: 250, y: 1000 } },
      { piece: null, faultCode: null, count: null, words: 'all of them wet', document: null, place: null },
      { lineId: null, piece: null, document: { name: 'piece.pdf', mediaType: 'application/pdf' } },
    ])
    expect((await at.load()).evidence).toEqual(evidence)
    const headers = { cookie: (await plant.as('inspector')).cookies }
    const paper = await fetch(`${plant.base}/api/v1/inspections/${at.id}/report.pdf`, { headers })
    expect(Buffer.from(await paper.arrayBuffer()).toString('latin1')).toContain('/Subtype /Image')
  })

  it('keeps the code of its fault: one that was seen on a piece is not called otherwise any more', async () => {
    const at = await bench()
    await at.say({ faultCode: 'PORE', count: 1 })
    const [fault] = (await goods.engineer.call(define.faultCodes.list, { query: { q: 'PORE' } })).rows as {
      id: string
      version: number
      uses: number
    }[]
    const body = { code: 'PIT', name: 'Pit', isActive: true, version: fault?.version ?? 0 }
    const renamed = goods.engineer.call(define.faultCodes.update, { params: { id: fault?.id ?? '' }, body })
    expect(await refusal(renamed)).toMatchObject({ code: 'still_in_use', facts: { uses: fault?.uses } })
  })

  it('is refused where it says nothing, of a piece or fault that is not there, or of a place on no picture', async () => {
    const at = await bench()
    const other = await bench()
    const elsewhere = (await other.load()).lines[0]?.id ?? ''
    for (const [change, code] of [
      [{}, 'evidence_empty'],
      [{ words: 'x', piece: 4 }, 'piece_unknown'],
      [{ words: 'x', piece: 0 }, 'piece_unknown'],
      [{ words: 'x', lineId: null }, 'piece_unknown'],
      [{ words: 'x', lineId: elsewhere }, 'not_found'],
      [{ faultCode: 'PORE' }, 'count_invalid'],
      [{ faultCode: 'PORE', count: 0 }, 'count_invalid'],
      [{ faultCode: 'LAP', count: 1 }, 'reference_unknown'],
      [{ documentId: '00000000-0000-7000-8000-000000000000' }, 'reference_unknown'],
      [{ documentId: kept['application/pdf'] ?? '', place: { x: 1, y: 1 } }, 'place_invalid'],
      [{ words: 'x', place: { x: 1, y: 1 } }, 'place_invalid'],
    ] as const)
      expect((await refusal(at.say(change)))?.code, JSON.stringify(change)).toBe(code)
    expect((await at.load()).evidence).toEqual([])
  })

  it('can be taken back with a reason, twice as well as once, and stays in the chain; nothing rubs it out', async () => {
    const at = await bench()
    const [said] = (await at.say({ words: 'scratched' })).evidence
    const id = said?.id ?? ''
    expect((await at.withdraw(id)).evidence).toEqual([])
    expect((await at.withdraw(id)).evidence).toEqual([])
    const sql = (text: string) => plant.kernel.database.writer.query(text, [])
    expect(await sql(`SELECT words, withdrawn_at IS NOT NULL AS gone FROM evidence WHERE id = '${id}'`)).toMatchObject([{ words: 'scratched' }])
    await expect(sql(`UPDATE evidence SET words = 'fine'`)).rejects.toThrow(/what was said stays/)
    await expect(sql('DELETE FROM evidence')).rejects.toThrow(/what was said stays/)
    const chain = await sql(`SELECT action, why FROM audit WHERE subject_id = '${at.id}' ORDER BY seq DESC LIMIT 1`)
    expect(chain).toMatchObject([{ action: 'evidence withdrawn', why: 'the wrong piece' }])
  })

  it('is said until the pieces are decided on, by whoever records them', async () => {
    const at = await bench()
    const finished = await inspect(plant, at.id)
    await at.say({ words: 'seen at the decision' })
    await decideAll(plant, finished)
    expect((await at.load()).state).toBe('decided')
    expect((await refusal(at.say({ words: 'too late' })))?.code).toBe('inspection_closed')
    const [said] = (await at.load()).evidence
    expect((await refusal(at.withdraw(said?.id ?? '')))?.code).toBe('inspection_closed')
    const clerk = await plant.as('receivingClerk')
    const open = await bench()
    const body = { lineId: null, piece: null, faultCode: null, count: null, words: 'hm', documentId: null, place: null }
    expect((await refusal(clerk.call(record.addEvidence, { params: { id: open.id }, body })))?.code).toBe('role_missing')
  })
})
