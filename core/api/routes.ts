/** Every route: its method and path. Without schemas, so that pages can name a route without carrying them. */
export const ROUTES = {
  health: ['get', '/api/health'],
  openApi: ['get', '/api/openapi.json'],
  sites: ['get', '/api/sites'],
  door: ['get', '/api/door'],
  newSite: ['post', '/api/sites'],
  site: ['get', '/api/sites/:site'],
  keepEdit: ['patch', '/api/sites/:site'],
  deleteSite: ['delete', '/api/sites/:site'],
  undo: ['post', '/api/sites/:site/undo'],
  redo: ['post', '/api/sites/:site/redo'],
  findings: ['get', '/api/sites/:site/findings'],
  export: ['get', '/api/sites/:site/export/:format'],
  builds: ['get', '/api/sites/:site/builds'],
  newBuild: ['post', '/api/sites/:site/builds'],
  build: ['get', '/api/builds/:build'],
  buildZip: ['get', '/api/builds/:build/zip'],
  compareBuilds: ['get', '/api/builds/:build/against/:other'],
  program: ['get', '/api/builds/:build/program'],
  newFlash: ['post', '/api/builds/:build/flashes'],
  log: ['get', '/api/sites/:site/log'],
  writeLog: ['post', '/api/sites/:site/log'],
  importLog: ['post', '/api/sites/:site/log/import'],
  upkeep: ['get', '/api/sites/:site/upkeep'],
  upkeepDone: ['post', '/api/sites/:site/upkeep/:item'],
  calendar: ['get', '/api/sites/:site/upkeep.ics'],
  backup: ['post', '/api/backup'],
  solder: ['put', '/api/sites/:site/controllers/:controller/wires'],
  newTestRun: ['post', '/api/sites/:site/test-runs'],
  dueTests: ['get', '/api/sites/:site/controllers/:controller/due-tests'],
  setTestItem: ['put', '/api/test-runs/:run/items/:key'],
  takeTest: ['put', '/api/test-runs/:run/hand'],
  seeTest: ['post', '/api/test-runs/:run/hand/:key/seen'],
  boards: ['get', '/api/sites/:site/boards'],
  replaceBoard: ['post', '/api/sites/:site/boards/:controller/replacement'],
  newBoardTests: ['get', '/api/sites/:site/controllers/:controller/new-board-tests'],
  openDoor: ['put', '/api/sites/:site/boards/:controller/door'],
  newTrial: ['post', '/api/sites/:site/trials'],
  newAcceptance: ['post', '/api/sites/:site/acceptance'],
  standIn: ['get', '/api/sites/:site/stand-ins/:service'],
  hubPage: ['get', '/api/sites/:site/hub'],
  hubCommand: ['post', '/api/sites/:site/hub/commands'],
  setHubFaults: ['put', '/api/sites/:site/hub/faults'],
  rig: ['get', '/api/sites/:site/rig'],
  turnRig: ['put', '/api/sites/:site/rig'],
  pairBoard: ['post', '/api/sites/:site/rig/:controller/pairing'],
  rigEvent: ['post', '/api/sites/:site/rig/:controller/events'],
  setFaults: ['put', '/api/sites/:site/stand-ins/:service/faults'],
  dryRun: ['post', '/api/sites/:site/services/:service/dry-run'],
  touchWidget: ['post', '/api/sites/:site/stand-ins/:service/widgets/:widget'],
  credentials: ['get', '/api/sites/:site/credentials'],
  putCredential: ['put', '/api/sites/:site/credentials'],
  deleteCredential: ['delete', '/api/sites/:site/credentials'],
  secrets: ['post', '/api/sites/:site/controllers/:controller/secrets'],
  hubSecrets: ['post', '/api/sites/:site/hubs/:hub/secrets'],
  pairingLabel: ['post', '/api/sites/:site/controllers/:controller/pairing-label'],
} as const satisfies Record<string, readonly ['get' | 'post' | 'put' | 'patch' | 'delete', `/api/${string}`]>

export type RouteName = keyof typeof ROUTES

type NamesIn<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | NamesIn<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never
/** The parameters in a route's path. */
export type Params<Name extends RouteName> = Readonly<Record<NamesIn<(typeof ROUTES)[Name][1]>, string>>

/** The names of a path's parameters, in order. */
export const namesIn = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map((match) => match[1]!)

/** The address of a route with its parameters put in. */
export function addressOf<Name extends RouteName>(name: Name, params: Params<Name>): string {
  const given: Readonly<Record<string, string>> = params
  return ROUTES[name][1].replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(given[key]!))
}

/** The live updates of a site, a WebSocket. */
export const LIVE_PATH = '/api/live'
