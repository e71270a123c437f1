import { useCallback, useMemo } from 'react'
import type { RigState } from '../../../../core/api'
import type { FaultTable, Given } from '../../../../core/diagnosis'
import { useAsked } from '../../../parts/useAsked'
import { call } from '../../../store/api'
import { useAppSelector } from '../../../store/store'

const isRig = ({ kind }: { kind: string }): boolean => kind === 'rig'
const NONE: readonly Given[] = []

/** What boards that run say of themselves is taken as seen: whether their links are up. */
export function useLiveBoards(table: FaultTable): readonly Given[] {
  const site = useAppSelector((state) => state.site.site)!.id
  const ask = useCallback((): Promise<RigState> => call('rig', { site }), [site])
  const rig = useAsked(ask, isRig)
  return useMemo(() => {
    if (!rig || rig.phase !== 'on') return NONE
    return table.observations.flatMap((observation): Given[] => {
      if (observation.kind !== 'online') return []
      const board = rig.boards.find(({ controller }) => controller === observation.controller)
      if (!board?.running) return []
      return [{ observation: observation.id, answer: board.links.some(({ state }) => state === 'up') ? 'yes' : 'no' }]
    })
  }, [rig, table])
}
