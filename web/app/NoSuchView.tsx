import { Link, useLocation, useParams } from 'react-router'
import { STEPS } from './steps'

/** An address that leads to no view: it says so, and where one can go from here. */
export function NoSuchView() {
  const { siteId } = useParams()
  const { pathname } = useLocation()
  const asked = decodeURIComponent(pathname.split('/').slice(2).join('/'))
  return (
    <div className="px-5 py-4">
      <h1 className="text-view font-bold">No such view</h1>
      <p className="my-3">This site has no view “{asked}”. Go to one of its steps:</p>
      <div className="flex flex-wrap gap-2">
        {STEPS.map(({ id, name }) => (
          <Link key={id} className="press" to={`/${siteId}/${id}`}>
            {name}
          </Link>
        ))}
      </div>
    </div>
  )
}
