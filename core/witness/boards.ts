import type { Heard } from './heard'

/** What is known of a channel by what its board has said. */
export interface ChannelHeard {
  readonly level: number
  readonly source: string | null
  readonly seq: number | null
  readonly mode: string | null
  readonly waiting: boolean
  /** ms */
  readonly t: number
}

/** A key that was pressed at a board's receiver and that none of its tables knows. */
export interface KeyHeard {
  readonly protocol: string
  readonly address: number
  readonly command: number
  /** ms */
  readonly t: number
}

/** What is known of a board by what it has said. */
export interface BoardHeard {
  readonly online: boolean
  /** since when it is online, or not; ms */
  readonly since: number
  /** of its tables, as it says when its link comes up */
  readonly hash: string | null
  readonly said: { readonly text: string; readonly t: number } | null
  /** starts after a time without power that were seen */
  readonly restarts: number
  /** the coming online at which the last of them was counted, ms */
  readonly countedAt: number | null
  readonly mode: string | null
  /** keys that nobody has taught, the last ones */
  readonly keys: readonly KeyHeard[]
  /** longest bounce of each input, ms */
  readonly bounces: Readonly<Record<string, number>>
  readonly signalDbm: number | null
  /** when it was turned on, as it says; ms */
  readonly upSince: number | null
  readonly channels: Readonly<Record<string, ChannelHeard>>
  /** levels when it was last heard before it went away */
  readonly before: Readonly<Record<string, ChannelHeard>>
}

export type Boards = Readonly<Record<string, BoardHeard>>

/** A board of which nothing was heard yet. */
export const UNHEARD_BOARD: BoardHeard = {
  online: false,
  since: 0,
  hash: null,
  said: null,
  restarts: 0,
  countedAt: null,
  mode: null,
  keys: [],
  bounces: {},
  signalDbm: null,
  upSince: null,
  channels: {},
  before: {},
}

/** "key nec 4 26" and "input s3: bounced 7 ms" (docs/behaviour.md, Version 4). */
const KEY = /^key ([a-z0-9-]{2,12}) (\d{1,10}) (\d{1,10})$/
const BOUNCE = /^input ([a-z0-9-]{1,24}): bounced (\d{1,3}) ms$/
const KEYS_KEPT = 5

const TABLES = /^tables ([0-9a-f]{12})$/
/** What a port says of itself: "port signal -61 up 3600", dBm and s; either may be missing. */
const PORT = /^port(?: signal (-?\d{1,3}))?(?: up (\d{1,9}))?$/

/**
 * A report tells of something new: another count of changes, or another level. Full reports repeat what was said
 * before. A power-up begins to count at 0.
 */
export const isNew = (
  report: Pick<ChannelHeard, 'level' | 'seq' | 'source'>,
  known: ChannelHeard | undefined,
): boolean =>
  known === undefined || report.seq !== known.seq || report.level !== known.level || startsAnew(report, known)

/** The count of changes has begun again: its power was gone. */
export const startsAnew = (report: Pick<ChannelHeard, 'seq' | 'source'>, known: ChannelHeard | undefined): boolean =>
  known !== undefined &&
  report.seq !== null &&
  known.seq !== null &&
  (report.seq < known.seq || (report.source === 'power' && known.source !== 'power'))

function withState(board: BoardHeard, heard: Extract<Heard, { kind: 'state' }>): BoardHeard {
  const { channel, level, source, seq, mode, waiting, t } = heard
  const known = board.channels[channel]
  // once for all channels that come with it
  const first = startsAnew(heard, known) && board.countedAt !== board.since
  return {
    ...board,
    ...(first ? { restarts: board.restarts + 1, countedAt: board.since } : {}),
    channels: { ...board.channels, [channel]: { level, source, seq, mode, waiting, t } },
  }
}

/** The same key again is moved up; the newest stands first. */
function withKey(keys: readonly KeyHeard[], [, protocol, address, command]: RegExpExecArray, t: number): KeyHeard[] {
  const key = { protocol: protocol!, address: Number(address), command: Number(command), t }
  const others = keys.filter(
    (one) => one.protocol !== key.protocol || one.address !== key.address || one.command !== key.command,
  )
  return [key, ...others].slice(0, KEYS_KEPT)
}

function withLog(board: BoardHeard, text: string, t: number): BoardHeard {
  const hash = TABLES.exec(text)?.[1]
  const port = PORT.exec(text)
  const key = KEY.exec(text)
  const bounce = BOUNCE.exec(text)
  return {
    ...board,
    ...(key ? { keys: withKey(board.keys, key, t) } : {}),
    ...(bounce
      ? { bounces: { ...board.bounces, [bounce[1]!]: Math.max(Number(bounce[2]), board.bounces[bounce[1]!] ?? 0) } }
      : {}),
    // what its port says of itself has columns of its own
    said: port && board.said ? board.said : { text, t },
    ...(hash === undefined ? {} : { hash }),
    ...(port?.[1] === undefined ? {} : { signalDbm: Number(port[1]) }),
    ...(port?.[2] === undefined ? {} : { upSince: t - Number(port[2]) * 1000 }),
  }
}

/** Boards by what they said so far, and one thing more. */
export function hear(boards: Boards, heard: Heard): Boards {
  if (!('controller' in heard)) return boards
  // that somebody is away says nothing of one who was never here
  if (heard.kind === 'status' && !heard.online && !boards[heard.controller]) return boards
  const board = boards[heard.controller] ?? { ...UNHEARD_BOARD, since: heard.t }
  const put = (next: BoardHeard): Boards => ({ ...boards, [heard.controller]: next })
  switch (heard.kind) {
    case 'status':
      if (heard.online === board.online && boards[heard.controller]) return boards
      return put({
        ...board,
        online: heard.online,
        since: heard.t,
        ...(heard.online ? {} : { before: board.channels }),
      })
    case 'state':
      return put(withState(board, heard))
    case 'log':
      return put(withLog(board, heard.text, heard.t))
    case 'mode':
      return put({ ...board, mode: heard.mode })
    default:
      return put(board)
  }
}
