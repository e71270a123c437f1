import { lazy, Suspense } from 'react'
import { useAppSelector } from '../../store/store'
import { Crossbar } from './Crossbar'
import { useSide, WaysTabs } from './WaysTabs'

// Each side beside the crossbar comes when it is looked at.
const ServicesTab = lazy(async () => ({ default: (await import('./services/ServicesTab')).ServicesTab }))
const PhoneTab = lazy(async () => ({ default: (await import('./services/PhoneTab')).PhoneTab }))
const VoiceTab = lazy(async () => ({ default: (await import('./VoiceTab')).VoiceTab }))
const RemotesTab = lazy(async () => ({ default: (await import('./remotes/RemotesTab')).RemotesTab }))
const LinksTab = lazy(async () => ({ default: (await import('./LinksTab')).LinksTab }))
const RulesTab = lazy(async () => ({ default: (await import('./rules/RulesTab')).RulesTab }))
const CredentialsTab = lazy(async () => ({ default: (await import('./CredentialsTab')).CredentialsTab }))
const TemplatesTab = lazy(async () => ({ default: (await import('./TemplatesTab')).TemplatesTab }))
const TablesTab = lazy(async () => ({ default: (await import('./TablesTab')).TablesTab }))

/** The heart: every fact of every way, typed once. The crossbar, and beside it what stands behind its columns. */
export function WaysView() {
  const site = useAppSelector((state) => state.site.site)!
  const [side, setSide] = useSide()
  return (
    <div className="px-5 py-3">
      <div className="sticky left-0 max-w-[calc(100vw-30rem)] min-w-full">
        <div className="flex items-baseline gap-4">
          <h1 className="text-view font-bold">Ways in</h1>
          <p className="text-note text-soft">
            {site.channels.length} {site.channels.length === 1 ? 'channel' : 'channels'}, {site.ways.length} ways,{' '}
            {site.rules.length} rules. A full pin speaks both ways, a half pin never reports back.
          </p>
        </div>
        <WaysTabs side={side} onPick={setSide} />
      </div>
      {side === 'crossbar' ? (
        <Crossbar />
      ) : (
        <Suspense
          fallback={
            <p className="mt-4 text-soft" role="status">
              A moment …
            </p>
          }
        >
          <div className="mt-3">
            {side === 'services' && <ServicesTab />}
            {side === 'phone' && <PhoneTab />}
            {side === 'voice' && <VoiceTab />}
            {side === 'remotes' && <RemotesTab />}
            {side === 'links' && <LinksTab />}
            {side === 'rules' && <RulesTab />}
            {side === 'credentials' && <CredentialsTab />}
            {side === 'templates' && <TemplatesTab />}
            {side === 'tables' && <TablesTab />}
          </div>
        </Suspense>
      )}
    </div>
  )
}
