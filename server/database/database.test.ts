import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Knex } from 'knex'
import { rigSchema } from '../../core/scene/rig'
import { specimens } from '../../core/network/specimens'
import { documentOf, starters } from '../../core/network/starters'
import { element } from '../../core/network/document'
import { frameSchema, saveSchema, stateSchema, type ProjectState } from '../../shared/api'
import { assetType, getAsset, putAsset } from './assets'
import { closeDatabase, openDatabase } from './client'
import {
  dropPieces,
  endFrame,
  keepPiece,
  keepProgress,
  isComplete,
  FINISH,
  bandsToLookAt,
  leaveBand,
  piecesOf,
  takeBand,
  takeUpBand,
  type FramePiece,
} from './bands'
import { addFrames, retryFrame, stopAllFrames, listFrames, removeFrame, stopFrame } from './frames'
import { keepProof, listProofs, proofState } from './proofs'
import { getGeometry, putGeometry } from './geometries'
import { specimenUses } from './uses'
import { keepDraft, listDrafts, readDraft, removeDraft } from './drafts'
import {
  copyProject,
  createProject,
  listProjects,
  listVersions,
  readProject,
  renameProject,
  saveVersion,
  setDeleted,
} from './projects'

const url = process.env.WAVELUME_DATABASE
const state = (colour: string): ProjectState => ({
  materials: {
    Paint: documentOf(
      'm',
      element('open_pbr_surface', { zeta: '1', name: 's', type: 'surfaceshader', alpha: '2' }, [
        element('input', { name: 'base_color', type: 'color3', value: colour }),
      ]),
    ),
  },
  scene: {
    format: 'wavelume-scene',
    version: 1,
    model: 'a'.repeat(64),
    parts: [{ name: '<b>Part</b>', material: 'Paint', hidden: false }],
    materials: {},
    rigs: [rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [1, 1, 1] } })],
    lights: 'r',
    cameras: [],
    maxOpaque: 8,
    maxSpecular: 24,
    exposure: 0,
  },
})

// `./wavelume test` starts PostgreSQL and sets the address.
/** A frame that is asked for. */
const frameOf = (name: string, width: number, height: number, passes: number) =>
  frameSchema.parse({
    name,
    settings: { width, height, passes, camera: { name: 'c', position: [0, 0, 1], target: [0, 0, 0], fov: 30 } },
    state: state('1, 0, 0'),
  })

describe.skipIf(!url)('the database', () => {
  let db: Knex
  beforeAll(async () => {
    db = await openDatabase(url!)
  })
  afterAll(closeDatabase)

  it('gives back a project as it was saved, attributes in their order', async () => {
    const p = await createProject(db, 'Order', state('1, 0, 0'))
    const back = (await readProject(db, p.id))!
    expect(back.state).toEqual(p.state)
    expect(Object.keys(back.state.materials.Paint!.children[0]!.attributes)).toEqual([
      'zeta',
      'name',
      'type',
      'alpha',
    ])
  })
  it('keeps built geometry by model and layout, and newer in place of older', async () => {
    const model = await putAsset(db, new TextEncoder().encode('glTF of geometries'), 'model/gltf-binary', 'g.glb')
    expect(await getGeometry(db, model, 4)).toBeUndefined()
    await putGeometry(db, model, 4, Uint8Array.of(1, 2))
    await putGeometry(db, model, 4, Uint8Array.of(3))
    expect(Array.from((await getGeometry(db, model, 4))!)).toEqual([3])
    expect(await getGeometry(db, model, 5)).toBeUndefined()
    await expect(putGeometry(db, 'f'.repeat(64), 4, Uint8Array.of(1))).rejects.toThrow()
  })
  it('says how far the still of a project is while a worker is to make one, and what uses a specimen', async () => {
    const p = await createProject(db, 'Stilled', {
      ...state('1, 0, 0'),
      materials: { Leaf: specimens.find(s => s.key === 'metal:gold')!.make() },
    })
    const mine = async () => (await listProjects(db)).find(x => x.id === p.id)!
    expect((await mine()).still).toBeNull()
    const asked = frameSchema.parse({
      name: 'still',
      settings: {
        width: 64,
        height: 40,
        passes: 12,
        camera: { name: 'c', position: [0, 0, 1], target: [0, 0, 0], fov: 30 },
      },
      state: p.state,
    })
    // a frame that stays one is no still
    await addFrames(db, p.id, [asked], async () => {})
    expect((await mine()).still).toBeNull()
    const becomes = { kind: 'proof' as const, name: 'As it came', exposure: 0 }
    const id = (await addFrames(db, p.id, [asked], async () => {}, becomes))![0]!
    expect((await takeUpBand(db, id, 0))!.becomes).toEqual(becomes)
    expect((await mine()).still).toEqual({ passes: 0, of: 12 })
    await db('frames').where({ id }).update({ status: 'running', passes: 5 })
    expect((await mine()).still).toEqual({ passes: 5, of: 12 })
    await db('frames').where({ id }).update({ status: 'stopped' })
    expect((await mine()).still).toBeNull()

    const uses = async () => (await specimenUses(db))['metal:gold']?.filter(u => u.project === p.id)
    expect(await uses()).toEqual([{ project: p.id, name: 'Stilled', material: 'Leaf' }])
    // only as it was saved last, and not of what is deleted
    await saveVersion(db, p.id, 1, state('0, 1, 0'), 'without')
    expect((await uses()) ?? []).toEqual([])
    await setDeleted(db, p.id, true)
    expect((await uses()) ?? []).toEqual([])
  })
  it('keeps a frame from asking to picture, its sums meanwhile, and nothing of what nobody wants', async () => {
    const p = await createProject(db, 'Framed', state('1, 0, 0'))
    const asked = frameOf('<i>First</i>', 64, 40, 8)
    const queued: string[] = []
    const add = async () =>
      (await addFrames(db, p.id, [asked], (_, { frames }) =>
        Promise.resolve(queued.push(...frames.map(f => f.id))),
      ))![0]!
    const id = await add()
    const mine = async () => (await listFrames(db)).frames.find(f => f.id === id)
    const kept = async (of: string) => {
      const all: FramePiece[] = []
      for await (const piece of piecesOf(db, of, [0, 1, 2])) all.push(piece)
      return all
    }
    expect(queued).toEqual([id])
    expect(await mine()).toMatchObject({
      name: '<i>First</i>',
      projectName: 'Framed',
      status: 'queued',
      passes: 0,
      lights: 'r',
    })
    // a frame that cannot be queued is none
    const before = (await listFrames(db)).frames.length
    await expect(addFrames(db, p.id, [asked], () => Promise.reject(new Error('no queue')))).rejects.toThrow(
      'no queue',
    )
    expect((await listFrames(db)).frames).toHaveLength(before)
    // what is saved later does not touch it
    await saveVersion(db, p.id, 1, state('0, 1, 0'), 'later')
    // progress is taken only while it is computed
    expect(await keepProgress(db, id, 0, 1, 0.5)).toBe(false)
    expect(await takeUpBand(db, id, 0)).toMatchObject({ state: state('1, 0, 0'), seconds: 0, bands: 1 })
    await keepPiece(db, id, { piece: 1, passes: 2, bytes: Uint8Array.of(1, 2, 3) })
    await keepPiece(db, id, { piece: 0, passes: 3, bytes: Uint8Array.of(7) })
    await keepPiece(db, id, { piece: 1, passes: 3, bytes: Uint8Array.of(4, 5, 6) })
    expect(await keepProgress(db, id, 0, 3, 0.75)).toBe(true)
    expect(await kept(id)).toEqual([
      { piece: 0, passes: 3, bytes: Uint8Array.of(7) },
      { piece: 1, passes: 3, bytes: Uint8Array.of(4, 5, 6) },
    ])
    expect(await mine()).toMatchObject({ passes: 3, seconds: 0.75 })
    const picture = await putAsset(db, new TextEncoder().encode('EXR'), 'image/x-exr', 'f.exr')
    await endFrame(db, id, { status: 'done', picture, thumbnail: picture, passes: 8 })
    expect(await mine()).toMatchObject({ status: 'done', picture, passes: 8 })
    expect(await kept(id)).toEqual([])
    expect(await stopFrame(db, id)).toBe(false)
    expect(await takeUpBand(db, id, 0)).toBeUndefined()
    const other = await add()
    await takeUpBand(db, other, 0)
    await keepPiece(db, other, { piece: 0, passes: 1, bytes: Uint8Array.of(1) })
    expect(await stopFrame(db, other)).toBe(true)
    expect(await keepProgress(db, other, 0, 2, 1)).toBe(false)
    expect(await kept(other)).toEqual([])
    await keepPiece(db, other, { piece: 0, passes: 2, bytes: Uint8Array.of(2) })
    await dropPieces(db, other)
    expect(await kept(other)).toEqual([])
    expect([await removeFrame(db, other), await removeFrame(db, other)]).toEqual([true, false])
    expect(
      await addFrames(db, '00000000-0000-4000-8000-000000000000', [asked], () =>
        Promise.reject(new Error('queued')),
      ),
    ).toBeUndefined()
    expect(
      frameSchema.safeParse({ ...asked, settings: { ...asked.settings, width: 8192, height: 8192 } }).error!
        .issues[0]!.message,
    ).toMatch(/4096 × 2304/)
  })
  it('sets a frame aside that workers end over, and counts what they leave or get done as none of that', async () => {
    const p = await createProject(db, 'Poisonous', state('1, 0, 0'))
    const asked = frameOf('Poison', 64, 40, 8)
    const id = (await addFrames(db, p.id, [asked], async () => {}))![0]!
    const mine = async () => (await listFrames(db)).frames.find(f => f.id === id)!
    // twice taken up and left in good order, twice with something to show
    for (const good of [() => leaveBand(db, id, 0), () => keepProgress(db, id, 0, 1, 1)])
      for (let i = 0; i < 2; i++) {
        expect(await takeUpBand(db, id, 0)).toBeDefined()
        await good()
      }
    // twice not
    for (let i = 0; i < 2; i++) expect(await takeUpBand(db, id, 0)).toBeDefined()
    expect((await mine()).status).toBe('running')
    expect(await takeUpBand(db, id, 0)).toBeUndefined()
    expect(await mine()).toMatchObject({ status: 'failed', message: expect.stringContaining('2 workers ended') })
  })
  it('shares a frame as bands, and knows which were left and when its picture can be made', async () => {
    const p = await createProject(db, 'Shared', state('1, 0, 0'))
    const asked = frameOf('Large', 1000, 1000, 60)
    let shares = 0
    const id = (await addFrames(db, p.id, [asked], async (_, { frames }) => {
      shares = frames[0]!.bands
    }))![0]!
    const bands = async () => (await bandsToLookAt(db)).filter(b => b.frame === id).map(b => b.band)
    expect(shares).toBe(3)
    expect(await bands()).toEqual([])
    // a job that was taken by somebody who ended before it began
    await takeBand(db, id, 1)
    expect(await bands()).toEqual([1])
    await db('frame_bands').where({ frame: id, band: 1 }).update({ taken: false })
    for (const band of [0, 2]) expect(await takeUpBand(db, id, band)).toMatchObject({ band, bands: 3 })
    // begun, and not ended: whoever gets the lock goes on
    expect(await bands()).toEqual([0, 2])
    await keepProgress(db, id, 0, 30, 5)
    await keepProgress(db, id, 2, 60, 7)
    expect((await listFrames(db)).frames.find(f => f.id === id)).toMatchObject({ passes: 30, seconds: 12 })
    expect([await bands(), await isComplete(db, id)]).toEqual([[0], false])
    expect(await takeUpBand(db, id, 2)).toBeUndefined()
    await takeUpBand(db, id, 1)
    for (const band of [0, 1]) await keepProgress(db, id, band, 60, 9)
    expect([await bands(), await isComplete(db, id)]).toEqual([[FINISH], true])
    expect(await takeUpBand(db, id, FINISH)).toMatchObject({ band: FINISH })
    await stopFrame(db, id)
    expect([await bands(), await takeUpBand(db, id, FINISH)]).toEqual([[], undefined])
    // begun anew, it is as it was when it was asked for
    const again: number[] = []
    expect(await retryFrame(db, id, async (_, { frames }) => again.push(...frames.map(f => f.bands)))).toBe(true)
    expect([again, await isComplete(db, id)]).toEqual([[3], false])
    expect(await takeUpBand(db, id, 0)).toMatchObject({ seconds: 0 })
    expect(await retryFrame(db, id, async () => again.push(0))).toBe(false)
    // a sequence is all of its frames or none
    const frames = async () => (await listFrames(db)).frames.filter(f => f.project === p.id).length
    const before = await frames()
    const failing = () => Promise.reject(new Error('the queue is gone'))
    await expect(addFrames(db, p.id, [asked, asked], failing)).rejects.toThrow('the queue is gone')
    expect(await frames()).toBe(before)
    expect(await addFrames(db, p.id, [asked, asked], async () => {})).toHaveLength(2)
    expect(await stopAllFrames(db)).toBeGreaterThanOrEqual(3)
    expect((await listFrames(db)).frames.every(f => f.status !== 'running' && f.status !== 'queued')).toBe(true)
  })
  it('refuses a save on top of a newer version, and keeps both', async () => {
    const p = await createProject(db, 'Two tabs', state('1, 0, 0'))
    expect(await saveVersion(db, p.id, 1, state('0, 1, 0'), 'first tab')).toEqual({ number: 2 })
    expect(await saveVersion(db, p.id, 1, state('0, 0, 1'), 'second tab')).toEqual({
      conflict: { head: 2, kept: 3 },
    })
    expect((await readProject(db, p.id))!.state).toEqual(state('0, 1, 0'))
    expect((await readProject(db, p.id, 3))!.state).toEqual(state('0, 0, 1'))
    expect((await listVersions(db, p.id)).map(v => [v.number, v.aside])).toEqual([
      [3, true],
      [2, false],
      [1, false],
    ])
  })
  it('saves at the same moment become one version and one conflict', async () => {
    const p = await createProject(db, 'Race', state('1, 0, 0'))
    const both = await Promise.all([
      saveVersion(db, p.id, 1, state('0, 1, 0'), ''),
      saveVersion(db, p.id, 1, state('0, 0, 1'), ''),
    ])
    expect(both.filter(r => r && 'conflict' in r)).toHaveLength(1)
  })
  it('keeps assets by content, once', async () => {
    const bytes = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 1, 2, 3])
    const a = await putAsset(db, bytes, 'image/png', 'a.png')
    const b = await putAsset(db, bytes, 'image/png', 'b.png')
    expect(a).toBe(b)
    expect(new Uint8Array((await getAsset(db, a))!.bytes)).toEqual(bytes)
  })
  it('keeps drafts of each tab by itself until they are saved or dropped, the newest first', async () => {
    const p = await createProject(db, 'Draft', state('1, 0, 0'))
    const draft = (colour: string, base = 1) => ({ person: 'me', base, state: state(colour) })
    expect(await listDrafts(db, p.id)).toEqual([])
    expect(await readDraft(db, p.id, 'a')).toBeUndefined()
    expect(await keepDraft(db, p.id, 'a', draft('0, 1, 0'))).toBe(true)
    await keepDraft(db, p.id, 'b', { ...draft('1, 1, 0', 2), person: 'you' })
    await keepDraft(db, p.id, 'a', draft('0, 0, 1'))
    expect((await listDrafts(db, p.id)).map(d => `${d.tab} ${d.person} ${d.base}`)).toEqual(['a me 1', 'b you 2'])
    expect(await readDraft(db, p.id, 'a')).toMatchObject({ base: 1, state: state('0, 0, 1') })
    expect(await readDraft(db, p.id, 'b')).toMatchObject({ base: 2, state: state('1, 1, 0') })
    await removeDraft(db, p.id, 'a')
    expect((await listDrafts(db, p.id)).map(d => d.tab)).toEqual(['b'])
    const nowhere = '00000000-0000-4000-8000-000000000000'
    expect(await keepDraft(db, nowhere, 'a', draft('0, 1, 0'))).toBe(false)
    // a program that keeps on making tabs ends at a bound, the oldest first
    for (let i = 0; i < 55; i++) await keepDraft(db, p.id, `t${i}`, draft('0, 1, 0'))
    const left = (await listDrafts(db, p.id)).map(d => d.tab)
    expect([left.length, left[0], left.at(-1)]).toEqual([50, 't54', 't5'])
  })
  it('renames, copies, deletes and brings back', async () => {
    const p = await createProject(db, 'First name', state('1, 0, 0'))
    const there = async () => (await listProjects(db)).find(x => x.id === p.id)
    await renameProject(db, p.id, 'Second name')
    expect((await there())!.name).toBe('Second name')
    const copy = (await copyProject(db, p.id))!
    expect([copy.name, copy.state, copy.id === p.id]).toEqual(['Second name copy', p.state, false])
    await setDeleted(db, p.id, true)
    expect(await there()).toBeUndefined()
    expect(await readProject(db, p.id)).toBeUndefined()
    expect(await saveVersion(db, p.id, 1, state('0, 1, 0'), '')).toBeUndefined()
    await setDeleted(db, p.id, false)
    expect((await readProject(db, p.id))!.state).toEqual(p.state)
  })
  it('gives a project the picture of its newest version', async () => {
    const thumbnail = await putAsset(db, new Uint8Array([0x89, 0x50, 0x4e, 0x47, 77]), 'image/png', 't')
    const p = await createProject(db, 'Picture', state('1, 0, 0'))
    await saveVersion(db, p.id, 1, state('0, 1, 0'), 'with a picture', thumbnail)
    expect((await listProjects(db)).find(x => x.id === p.id)!.thumbnail).toBe(thumbnail)
    expect((await listVersions(db, p.id))[0]).toMatchObject({ note: 'with a picture', thumbnail })
  })
  it('numbers proofs in order', async () => {
    const p = await createProject(db, 'Proofs', state('1, 0, 0'))
    const picture = await putAsset(db, new Uint8Array([0x89, 0x50, 0x4e, 0x47, 9]), 'image/png', 'p')
    for (let i = 0; i < 2; i++)
      await keepProof(db, p.id, {
        kind: 'proof',
        name: `p${i}`,
        width: 1,
        height: 1,
        picture,
        thumbnail: null,
        settings: i ? { exposure: 1, state: state('0, 0, 1') } : {},
      })
    const proofs = await listProofs(db, p.id)
    expect(proofs.map(x => x.number)).toEqual([2, 1])
    // what made them is fetched when it is needed: five hundred of them made opening heavy
    expect(proofs[0]!.settings).toEqual({ exposure: 1 })
    expect(await proofState(db, p.id, proofs[0]!.id)).toEqual(state('0, 0, 1'))
    expect(await proofState(db, p.id, proofs[1]!.id)).toBeUndefined()
  })
})

describe('what the server takes', () => {
  it('is checked: scenes of another kind, bad hashes and hostile documents are refused with the place', () => {
    expect(stateSchema.safeParse(state('1, 0, 0')).success).toBe(true)
    const bad = saveSchema.safeParse({
      base: 0,
      state: { ...state('1, 0, 0'), materials: { X: { tag: 'script src', attributes: {}, children: [] } } },
    })
    expect(bad.success).toBe(false)
    expect(bad.error!.issues[0]!.path.join('.')).toContain('materials.X')
    expect(starters.every(s => stateSchema.shape.materials.safeParse({ a: s.make() }).success)).toBe(true)
  })
  it('knows files by their content', () => {
    expect(assetType(new TextEncoder().encode('<html>'))).toBeUndefined()
    expect(assetType(new TextEncoder().encode('glTF....'))).toBe('model/gltf-binary')
  })
})
