import { useLocation, useSearchParams } from 'react-router'
import { isBlocking, type Finding } from '../../core/findings'
import { useAppSelector } from '../store/store'

/** Where the eye is: a step of the job, and the side of it. */
export interface Here {
  readonly step: string
  readonly side: string | null
}

export function useHere(): Here {
  const { pathname } = useLocation()
  const [parameters] = useSearchParams()
  return { step: pathname.split('/')[2] ?? '', side: parameters.get('side') }
}

/** What a side is called where it is remembered. */
export const hereKey = ({ step, side }: Here): string => `${step}/${side ?? ''}`

/** The sides of the bench, by the families of findings that they are about; the board itself is about all. */
const BENCH_SIDES: Readonly<Record<string, RegExp>> = {
  supply: /^[SD]/,
  contacts: /^[LFH]/,
  start: /^P0[34]$/,
  wiring: /^[LWDH]/,
  profiles: /^$/,
}

/** Is a finding about what this side shows? On Build it is about what keeps the build from being made. */
export function concerns({ step, side }: Here, finding: Finding): boolean {
  if (step === 'build') return finding.where.step === 'build' || isBlocking([finding])
  if (finding.where.step !== step) return false
  if (step === 'ways') return (finding.where.side ?? null) === side
  return side === null || (BENCH_SIDES[side]?.test(finding.id) ?? true)
}

/** Is a finding about the thing in hand: the picked role or cell? */
export function useInHand(): (finding: Finding) => boolean {
  const { step, side } = useHere()
  const cell = useAppSelector((state) => state.screen.cell)
  const role = useAppSelector((state) => state.screen.role)
  return ({ where }) => {
    if (step !== 'ways') return where.role !== undefined && where.role === role
    if (side || cell === null) return false
    return where.channel === cell.channel && (where.column === undefined || where.column === cell.column)
  }
}
