/** What travels between server and pages, described once. */
export { addressOf, LIVE_PATH, namesIn, ROUTES, type Params, type RouteName } from './routes'
export { CONTRACT, type AnswerOf, type BodyOf, type BodySent, type Contract, type Matching } from './contract'
export { LiveMessage } from './live'
export { openApiDocument } from './openApi'
export type { HandRow } from './hand'
export type {
  BoardHereRow,
  BoardRow,
  StrangerRow,
  ToldBy,
  BuildFile,
  BuildRow,
  CredentialRow,
  DoorRow,
  DueTest,
  LogEntry,
  LogKind,
  Outcome,
  SiteRow,
  StoredSite,
  TestRun,
  AcceptanceRow,
  TrialRow,
  UpkeepRow,
  UndoLabels,
  WireRow,
  HubPage,
  RigBoard,
  RigPaired,
  RigState,
  StandInPage,
} from './rows'
export { Faults, NO_FAULTS } from './rows'
