import { boardIn } from '../boards'
import { OPTO, optoChain } from '../bench'
import { channelsOn, loadOf } from '../site'
import type { Check } from './finding'

/** D01 coil-supply jumper on with 3.3 V logic */
export const jumperWithLowLogic: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    const { module } = controller
    if (!board || !module || module.input !== 'opto' || module.active !== 'low' || module.coilJumper === 'removed') return []
    const chain = optoChain(module, board.logicVolts)
    if (chain.releaseMarginVolts > 0) return []
    const mains = channelsOn(site, controller.id).some((channel) => loadOf(site, channel.load)?.supply === 'mains')
    return [
      {
        id: 'D01',
        severity: mains ? ('danger' as const) : ('error' as const),
        title: 'relay may never let go',
        where: { thing: 'controller' as const, id: controller.id, name: controller.name, controller: controller.id, step: 'bench' as const },
        what: `With the coil-supply jumper ${module.coilJumper} the opto chain sees ${module.coilVolts} V; a ${board.logicVolts} V high leaves ${chain.offVolts.toFixed(1)} V across it, the knee is near ${OPTO.kneeVolts} V: ${chain.offMilliamps.toFixed(2)} mA still flow, release margin ${chain.releaseMarginVolts.toFixed(1)} V.`,
        why: mains ? 'A relay told off may stay closed: the load stays live.' : 'A relay told off may stay closed.',
        fixes: module.coilJumper === 'fitted' ? [{ label: 'Take the jumper off: logic side on 3.3 V', change: (draft) => { draft.controllers.find((c) => c.id === controller.id)!.module!.coilJumper = 'removed' } }] : [],
      },
    ]
  })

export const driveChecks: readonly Check[] = [jumperWithLowLogic]
