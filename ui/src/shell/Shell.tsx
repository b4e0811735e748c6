import { useQuery } from '@tanstack/react-query'
import { Suspense, useEffect, useState } from 'react'
import { Link, Outlet, useLocation } from 'react-router'

import { isSignedOut } from '../api/client'
import { sessionQuery } from '../api/queries'
import { aside } from '../run/recorder/aside'
import { Fault, Waiting } from '../kit/notes'
import { optional } from '../kit/optional'
import { SignInPage } from './SignInPage'

// Not on the way to the first page.
const HelpButton = optional(() => import('./help/HelpButton'))

/** The places, and which other sheets belong to each: by the first word of their path. */
const PLACES = [
  { place: 'Tonight', path: '/tonight', sheets: ['tonight'] },
  { place: 'Drills', path: '/build', sheets: ['build'] },
  { place: 'Run', path: '/run', sheets: ['run', 'pair', 'device'] },
  { place: 'Results', path: '/read', sheets: ['read', 'pairs', 'compare'] },
  { place: 'People', path: '/people', sheets: ['people'] },
  { place: 'Log', path: '/log', sheets: ['log'] },
]

/** Lets nobody in who is not signed in. */
export function SignedIn() {
  const session = useQuery(sessionQuery)
  // Asked again, as whenever one comes back to the tab, it is known of nobody for a moment: what is
  // typed into the form so far stays.
  const [nobody, setNobody] = useState(false)
  const stillNobody = !session.data && (nobody || isSignedOut(session.error))
  if (stillNobody !== nobody) setNobody(stillNobody)
  if (stillNobody) return <SignInPage />
  if (session.isPending) return <Waiting what="Hastatus" />
  if (session.error) {
    return (
      <main className="p-10">
        <Fault error={session.error} />
      </main>
    )
  }
  return <Outlet />
}

/** The places, in the order of the work, over the sheet of the job. */
export function Shell() {
  const { data: session } = useQuery(sessionQuery)
  const here = useLocation().pathname.split('/')[1] ?? ''
  useEffect(() => {
    const leaving = new AbortController()
    void import('../run/recorder/sendUnsent').then(({ sendAllLeftovers }) =>
      sendAllLeftovers(leaving.signal),
    )
    return () => leaving.abort()
  }, [])
  return (
    <div className="flex min-h-screen flex-col">
      <a className="skip-link" href="#content">
        Skip to the content
      </a>
      <header className="shell-head">
        <Link to="/" className="figures flex items-center py-1.5 text-xl">
          Hastatus
        </Link>
        <nav className="shell-places" aria-label="Places">
          {PLACES.map(({ place, path, sheets }) => (
            <Link
              key={place}
              to={path}
              aria-current={sheets.includes(here) ? 'page' : undefined}
              className="flex items-center border-b-2 border-transparent pt-0.5 text-soft hover:text-ink aria-[current=page]:border-ink aria-[current=page]:font-semibold aria-[current=page]:text-ink"
            >
              {place}
            </Link>
          ))}
        </nav>
        <KeptAside />
        <Link to="/account" className="small ml-auto flex items-center text-right hover:text-ink">
          <span className="shell-club">{session?.club} ·&nbsp;</span>
          {session?.coach}
        </Link>
        <Suspense fallback={<span className="help-button" />}>
          <HelpButton />
        </Suspense>
      </header>
      <main id="content" tabIndex={-1} className="flex flex-1 flex-col">
        <Suspense fallback={<Waiting what="the sheet" />}>
          <Outlet />
        </Suspense>
      </main>
    </div>
  )
}

/** Tells of what the server refused, until it has been brought in. */
function KeptAside() {
  const { data } = useQuery({ queryKey: ['aside'], queryFn: aside.all, refetchInterval: 15_000 })
  if (!data?.length) return null
  return (
    <Link to="/device" className="ml-auto flex items-center font-semibold underline">
      Some answers were refused
    </Link>
  )
}
