import { useRouteError } from 'react-router'

/** Something broke in the page itself. What was kept is kept. */
export function Failed() {
  const error = useRouteError()
  return (
    <main className="p-10">
      <h1 className="text-view font-bold">This page has failed</h1>
      <p className="my-3">
        Everything that was saved is saved. Load the page again; if it fails again, report the line below.
      </p>
      <pre className="border border-hair bg-panel p-3 font-mono text-note whitespace-pre-wrap">
        {error instanceof Error ? error.message : String(error)}
      </pre>
      <a className="press mt-4" href={location.pathname}>
        Load again
      </a>
    </main>
  )
}
