import type { ControllerImage } from '../../core/image'
import type { Build, BuildFile } from '../../core/outputs'
import type { BuildRow } from '../../core/api'
import { NEXT_TURN, type Db } from './open'

interface Head {
  id: number
  site_id: string
  controller_id: string
  number: number
  revision: number
  hash: string
  at: string
}

/** What a flash was made with. */
export interface FlashedWith {
  readonly boardPackage: string
  readonly versions: Readonly<Record<string, string>>
}

export function buildQueries(db: Db) {
  const columns = 'id, site_id, controller_id, number, revision, hash, at'
  const bySite = db.prepare<[string], Head>(`SELECT ${columns} FROM builds WHERE site_id = ? ORDER BY id DESC`)
  const byId = db.prepare<[number], Head>(`SELECT ${columns} FROM builds WHERE id = ?`)
  const last = db.prepare<[string, string], { number: number; hash: string; id: number; revision: number }>(
    'SELECT id, number, hash, revision FROM builds WHERE site_id = ? AND controller_id = ? ORDER BY number DESC LIMIT 1',
  )
  const insert = db.prepare(
    'INSERT INTO builds (site_id, controller_id, number, revision, hash, image, at) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const insertFile = db.prepare('INSERT INTO artefacts (build_id, name, position, text) VALUES (?, ?, ?, ?)')
  const imageOf = db.prepare<[number], { image: string }>('SELECT image FROM builds WHERE id = ?')
  const files = db.prepare<[number], { name: string; text: string }>(
    'SELECT name, text FROM artefacts WHERE build_id = ? ORDER BY position',
  )
  const flashesOf = db.prepare<
    [number],
    { id: number; board_package: string; versions: string; note: string; at: string }
  >('SELECT id, board_package, versions, note, at FROM flashes WHERE build_id = ? ORDER BY id DESC')
  const insertFlash = db.prepare(
    `INSERT INTO flashes (build_id, board_package, versions, note, at, turn) VALUES (?, ?, ?, ?, ?, ${NEXT_TURN})`,
  )
  const flashed = db.prepare<
    [string],
    { controller_id: string; hash: string; image: string; number: number; at: string; turn: number }
  >(
    `SELECT b.controller_id, b.hash, b.image, b.number, f.at, f.turn FROM flashes f JOIN builds b ON b.id = f.build_id
     WHERE b.site_id = ? AND f.id = (SELECT max(f2.id) FROM flashes f2 JOIN builds b2 ON b2.id = f2.build_id WHERE b2.site_id = b.site_id AND b2.controller_id = b.controller_id)`,
  )
  const row = (head: Head): BuildRow => ({
    id: head.id,
    siteId: head.site_id,
    controller: head.controller_id,
    number: head.number,
    revision: head.revision,
    hash: head.hash,
    at: head.at,
    flashes: flashesOf.all(head.id).map(({ id, board_package: boardPackage, versions, note, at }) => ({
      id,
      boardPackage,
      versions: JSON.parse(versions) as Record<string, string>,
      note,
      at,
    })),
  })
  return {
    list: (site: string): BuildRow[] => bySite.all(site).map(row),
    /** of the last build of a controller; 0: there is none */
    number: (site: string, controller: string): number => last.get(site, controller)?.number ?? 0,
    get(id: number): BuildRow | undefined {
      const head = byId.get(id)
      return head && row(head)
    },
    files: (id: number): BuildFile[] => files.all(id),
    image: (id: number): ControllerImage => JSON.parse(imageOf.get(id)!.image) as ControllerImage,
    add: db.transaction((site: string, revision: number, build: Build, at: string): number => {
      const { image } = build
      const number = (last.get(site, image.controller)?.number ?? 0) + 1
      const id = Number(
        insert.run(site, image.controller, number, revision, image.hash, JSON.stringify(image), at).lastInsertRowid,
      )
      build.files.forEach((file, position) => insertFile.run(id, file.name, position, file.text))
      return id
    }),
    addFlash: (build: number, tools: FlashedWith, note: string, at: string): number =>
      Number(insertFlash.run(build, tools.boardPackage, JSON.stringify(tools.versions), note, at).lastInsertRowid),
    /** What is on each board, as far as the logbook knows. */
    flashed: (site: string) =>
      flashed.all(site).map((f) => ({
        controller: f.controller_id,
        hash: f.hash,
        number: f.number,
        at: f.at,
        turn: f.turn,
        image: JSON.parse(f.image) as ControllerImage,
      })),
  }
}
