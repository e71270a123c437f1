import { counted } from '../../../core/site'
import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { ViewHead } from '../../parts/ViewHead'
import { useAppSelector } from '../../store/store'
import { Crossbar } from './Crossbar'

/** The crossbar, and beside it what stands behind its columns: a row a side. */
const SIDES = [
  { id: 'crossbar', name: 'Crossbar', View: Crossbar },
  side('services', 'Services', async () => (await import('./services/ServicesTab')).ServicesTab),
  side('phone', 'Phone', async () => (await import('./services/PhoneTab')).PhoneTab),
  side('voice', 'Voice', async () => (await import('./VoiceTab')).VoiceTab),
  side('remotes', 'Remotes', async () => (await import('./remotes/RemotesTab')).RemotesTab),
  side('links', 'Links', async () => (await import('./LinksTab')).LinksTab),
  side('rules', 'Rules', async () => (await import('./rules/RulesTab')).RulesTab),
  side('credentials', 'Credentials', async () => (await import('./CredentialsTab')).CredentialsTab),
  side('templates', 'Templates', async () => (await import('./TemplatesTab')).TemplatesTab),
  side('tables', 'Tables', async () => (await import('./TablesTab')).TablesTab),
]

/** The heart: every fact of every way, typed once. */
export function WaysView() {
  const site = useAppSelector((state) => state.site.site)!
  const [current, pick] = useSide(SIDES)
  const counts = [
    counted(site.channels.length, 'channel'),
    counted(site.ways.length, 'way'),
    counted(site.rules.length, 'rule'),
  ].join(', ')
  return (
    <div className="min-w-min px-5 py-3">
      <div className="sticky left-5 max-w-[calc(100cqw-2.5rem)]">
        <ViewHead title="Ways in" note={`${counts}. Full pin: reports back. Half pin: never reports back.`} />
        <div className="mt-1">
          <SideTabs label="Sides of the ways" sides={SIDES} current={current.id} onPick={pick} />
        </div>
      </div>
      <div className={current.id === 'crossbar' ? '' : 'mt-3'}>
        <SideView side={current} />
      </div>
    </div>
  )
}
