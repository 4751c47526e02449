import { seedDemo } from '@/server/changes/seed-demo'
import { makeBackup, restoreBackup } from '@/server/backup/backup'
import { DirectoryInUseError } from '@/server/database/directory-lock'
import { mails } from '@/server/database/selling-schema'
import { openSteppe } from '@/server/engine/steppe'
import { toDocument } from '@/server/exchange/store-document'
import { keepPicture, readPicture } from '@/server/pictures/picture-files'
import { liveView } from '@/server/views/view'
import { strToU8, unzipSync, zipSync } from 'fflate'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describeInDirectory } from './in-directory'
import { freshDirectory, temporaryDirectory } from './temporary-directory'

const AT = new Date('2026-11-27T10:00:00Z')
const from = freshDirectory()
const PICTURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3)
let archive: Uint8Array
let picture: string
let document: unknown

afterAll(() => from.remove())

describeInDirectory('a backup', () => {
  beforeAll(async () => {
    const steppe = await openSteppe(from.path)
    await seedDemo(steppe)
    document = toDocument(liveView(steppe).prepared.store)
    const kept = await keepPicture(from.path, PICTURE)
    if (!kept.ok) throw new Error(kept.problem)
    picture = kept.name
    mkdirSync(join(from.path, 'outbox'))
    writeFileSync(join(from.path, 'outbox', '000001.eml'), 'Subject: hello')
    const letter = { kind: 'order-placed', order: 1, to: 'buyer' }
    await steppe.database
      .insert(mails)
      .values({ to: 'a@b.example', account: null, at: AT, letter, about: 'order 1' })
    await expect(makeBackup(from.path, AT)).rejects.toThrow(DirectoryInUseError)
    await steppe.close()
    ;({ archive } = await makeBackup(from.path, AT))
  }, 120_000)

  /** A directory of its own for a restore, gone afterwards. */
  async function into<Result>(act: (path: string) => Promise<Result>): Promise<Result> {
    const directory = temporaryDirectory()
    try {
      return await act(directory.path)
    } finally {
      directory.remove()
    }
  }

  test('what was backed up is there again: the store, what was sold, pictures and mails', async () => {
    await into(async (path) => {
      expect(await restoreBackup(archive, path)).toMatchObject({ ok: true, manifest: { rows: { mail: 1 } } })
      const steppe = await openSteppe(path)
      expect(toDocument(liveView(steppe).prepared.store)).toEqual(document)
      expect(await steppe.database.select({ to: mails.to }).from(mails)).toEqual([{ to: 'a@b.example' }])
      await steppe.close()
      expect((await readPicture(path, picture))?.bytes).toEqual(PICTURE)
      expect(existsSync(join(path, 'outbox', '000001.eml'))).toBe(true)
      // A second one would cover what is there now.
      expect(await restoreBackup(archive, path)).toEqual({ ok: false, code: 'not-empty' })
    })
  })

  test('what is damaged, of another kind, or leads elsewhere is refused, and leaves nothing', async () => {
    const files = unzipSync(archive)
    const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json'])) as Record<string, object>
    const said = (change: object) => ({
      'manifest.json': strToU8(JSON.stringify({ ...manifest, ...change })),
    })
    const changed = { [`pictures/${picture}`]: Uint8Array.of(0x89, 0x50) }
    const { 'database.tar.gz': dump, ...without } = files
    const cases: readonly (readonly [Record<string, Uint8Array>, object])[] = [
      [
        { ...files, ...changed },
        { code: 'damaged', file: `pictures/${picture}` },
      ],
      [without, { code: 'damaged', file: 'database.tar.gz' }],
      [{ ...files, ...said({ version: 2 }) }, { code: 'not-a-backup' }],
      [{ ...files, ...said({ files: { '../elsewhere': '0'.repeat(64) } }) }, { code: 'not-a-backup' }],
      [
        { ...files, ...said({ rows: { ...manifest['rows'], mail: 2 } }) },
        { code: 'rows-differ', table: 'mail' },
      ],
    ]
    expect(dump?.length).toBeGreaterThan(1_000)
    for (const [wrong, why] of cases)
      await into(async (path) => {
        expect(await restoreBackup(zipSync(wrong, { level: 0 }), path)).toEqual({ ok: false, ...why })
        expect(existsSync(join(path, 'database'))).toBe(false)
        expect(existsSync(join(path, 'pictures'))).toBe(false)
      })
    await into(async (path) => {
      for (const bytes of [strToU8('no archive'), archive.subarray(0, archive.length / 2)])
        expect(await restoreBackup(bytes, path)).toEqual({ ok: false, code: 'not-a-backup' })
    })
  })
})
