import { UNHEARD_BOARD, type BoardHeard, type Boards, type ChannelHeard } from '../../core/witness'
import type { Db } from './open'

/** How often a channel has changed, as far as its reports were heard. */
export interface ChangesHeard {
  readonly controller: string
  readonly channel: string
  readonly changes: number
  readonly since: string
  readonly at: string
}

export interface Door {
  readonly joinedAt: string | null
  readonly openUntil: string | null
}

interface BoardRow {
  controller_id: string
  first_at: string
  at: string
  hash: string | null
  said: string | null
  restarts: number
}

interface ChannelRow {
  controller_id: string
  channel_id: string
  level: number
  source: string | null
  seq: number | null
  changes: number
  since: string
  at: string
}

const ms = (at: string): number => new Date(at).getTime()

/** Whether it is here now is heard anew. */
const boardOf = (row: BoardRow, channels: Readonly<Record<string, ChannelHeard>>): BoardHeard => ({
  ...UNHEARD_BOARD,
  since: ms(row.at),
  hash: row.hash,
  said: row.said === null ? null : { text: row.said, t: ms(row.at) },
  restarts: row.restarts,
  channels,
  before: channels,
})

/** What boards have said of themselves, and the door by which they join. */
export const boardQueries = (db: Db) => ({ ...heardQueries(db), ...channelQueries(db), ...doorQueries(db) })

/** Boards as they were last heard. */
function heardQueries(db: Db) {
  const boards = db.prepare<[string], BoardRow>(
    'SELECT controller_id, first_at, at, hash, said, restarts FROM heard_boards WHERE site_id = ?',
  )
  const channels = db.prepare<[string], ChannelRow>(CHANNELS)
  const putBoard = db.prepare(
    'INSERT INTO heard_boards (site_id, controller_id, first_at, at, hash, said, restarts) VALUES (?, ?, ?, ?, ?, ?, ?) ' +
      'ON CONFLICT (site_id, controller_id) DO UPDATE SET at = excluded.at, hash = excluded.hash, ' +
      'said = excluded.said, restarts = excluded.restarts',
  )
  return {
    heard(site: string): Boards {
      const rows = channels.all(site)
      const own = (id: string) => rows.filter(({ controller_id }) => controller_id === id)
      return Object.fromEntries(
        boards.all(site).map((row) => [row.controller_id, boardOf(row, channelsHeard(own(row.controller_id)))]),
      )
    },
    firstSeen: (site: string): Record<string, string> =>
      Object.fromEntries(boards.all(site).map((row) => [row.controller_id, row.first_at])),
    putBoard: (site: string, controller: string, board: BoardHeard, at: string): void =>
      void putBoard.run(site, controller, at, at, board.hash, board.said?.text ?? null, board.restarts),
  }
}

const CHANNELS =
  'SELECT controller_id, channel_id, level, source, seq, changes, since, at FROM heard_channels WHERE site_id = ?'

const channelsHeard = (rows: readonly ChannelRow[]): Record<string, ChannelHeard> =>
  Object.fromEntries(
    rows.map(({ channel_id, level, source, seq, at }) => [
      channel_id,
      { level, source, seq, mode: null, waiting: false, t: ms(at) },
    ]),
  )

/** How often each channel has changed, as far as its reports were heard. */
function channelQueries(db: Db) {
  const channels = db.prepare<[string], ChannelRow>(CHANNELS)
  const putChannel = db.prepare(
    'INSERT INTO heard_channels (site_id, controller_id, channel_id, level, source, seq, changes, since, at) ' +
      'VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (site_id, controller_id, channel_id) DO UPDATE SET ' +
      'level = excluded.level, source = excluded.source, seq = excluded.seq, ' +
      'changes = heard_channels.changes + excluded.changes, at = excluded.at',
  )
  const reset = db.prepare('UPDATE heard_channels SET changes = 0, since = ? WHERE site_id = ? AND controller_id = ?')
  return {
    /** `changes`: how many more there were. */
    putChannel: (
      site: string,
      controller: string,
      channel: string,
      { level, source, seq }: Pick<ChannelHeard, 'level' | 'source' | 'seq'>,
      changes: number,
      at: string,
    ): void => void putChannel.run(site, controller, channel, level, source, seq, changes, at, at),
    changes: (site: string): ChangesHeard[] =>
      channels.all(site).map((row) => ({
        controller: row.controller_id,
        channel: row.channel_id,
        changes: row.changes,
        since: row.since,
        at: row.at,
      })),
    /** Its contacts are new: they are counted from now. */
    countAnew: (site: string, controller: string, at: string): void => void reset.run(at, site, controller),
  }
}

/** Who may join, and who has. */
function doorQueries(db: Db) {
  const doorOf = db.prepare<[string, string], { joined_at: string | null; open_until: string | null }>(
    'SELECT joined_at, open_until FROM board_doors WHERE site_id = ? AND controller_id = ?',
  )
  const setOpen = db.prepare(
    'INSERT INTO board_doors (site_id, controller_id, joined_at, open_until) VALUES (?, ?, NULL, ?) ' +
      'ON CONFLICT (site_id, controller_id) DO UPDATE SET open_until = excluded.open_until',
  )
  const setJoined = db.prepare(
    'INSERT INTO board_doors (site_id, controller_id, joined_at, open_until) VALUES (?, ?, ?, NULL) ' +
      'ON CONFLICT (site_id, controller_id) DO UPDATE SET joined_at = excluded.joined_at',
  )
  const removals = ['heard_boards', 'heard_channels', 'board_doors'].map((table) =>
    db.prepare(`DELETE FROM ${table} WHERE site_id = ? AND controller_id = ?`),
  )
  return {
    door(site: string, controller: string): Door {
      const row = doorOf.get(site, controller)
      return { joinedAt: row?.joined_at ?? null, openUntil: row?.open_until ?? null }
    },
    openDoor: (site: string, controller: string, until: string | null): void =>
      void setOpen.run(site, controller, until),
    joined: (site: string, controller: string, at: string): void => void setJoined.run(site, controller, at),
    /** The board is another, or gone: what it said of itself is no longer so, and it has to join anew. */
    removeBoard: db.transaction((site: string, controller: string): void => {
      for (const removal of removals) removal.run(site, controller)
    }),
  }
}
