import { ChevronDown } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import type { SiteRow } from '../../core/api'
import { call } from '../store/api'
import { attempt } from '../store/attempt'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch } from '../store/store'

const ITEM =
  'cursor-pointer px-3 py-1.5 data-highlighted:bg-ink data-highlighted:text-wall data-highlighted:outline-none'

function useSites(): readonly SiteRow[] {
  const [sites, setSites] = useState<readonly SiteRow[]>([])
  useEffect(() => {
    void attempt(call('sites', {})).then((answer) => answer && setSites(answer.sites))
  }, [])
  return sites
}

/** The walk, and the way back to the door. */
function Elsewhere() {
  const navigate = useNavigate()
  const dispatch = useAppDispatch()
  const walk = () => {
    dispatch(screenActions.walked(0))
    void navigate('bench')
  }
  return (
    <>
      <DropdownMenu.Separator className="my-1 h-px bg-hair" />
      <DropdownMenu.Item className={ITEM} onSelect={walk}>
        Walk through the steps
      </DropdownMenu.Item>
      <DropdownMenu.Item className={ITEM} onSelect={() => void navigate('/')}>
        All sites, new site …
      </DropdownMenu.Item>
    </>
  )
}

/** The sites there are, and the way back to the door. Opens at once: it was asked for by a press. */
export default function SiteMenu({ name }: { name: string }) {
  const navigate = useNavigate()
  const sites = useSites()
  return (
    <DropdownMenu.Root defaultOpen modal={false}>
      <DropdownMenu.Trigger
        className="flex max-w-full min-w-0 items-center gap-2 rounded-plate px-1 py-0.5"
        aria-label={`Site ${name}: choose another`}
      >
        <span className="font-place truncate text-room font-bold tracking-tight">{name}</span>
        <ChevronDown size={15} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="z-40 min-w-56 border border-ink bg-panel py-1 shadow-lg"
        >
          {sites.map((site) => (
            <DropdownMenu.Item key={site.id} className={ITEM} onSelect={() => void navigate(`/${site.id}/bench`)}>
              {site.name}
            </DropdownMenu.Item>
          ))}
          <Elsewhere />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
