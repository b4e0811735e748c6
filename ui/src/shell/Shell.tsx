import { useQuery } from '@tanstack/react-query'
import { Suspense, useEffect } from 'react'
import { Link, NavLink, Outlet } from 'react-router'

import { ApiError } from '../api/client'
import { sessionQuery } from '../api/queries'
import { Fault, Waiting } from './Fault'
import { SignInPage } from './SignIn'

const PLACES = ['Build', 'Run', 'Read', 'People', 'Log'] as const

/** Lets nobody in who is not signed in. */
export function SignedIn() {
  const session = useQuery(sessionQuery)
  if (session.isPending) return <Waiting what="Hastatus" />
  if (session.error instanceof ApiError && session.error.status === 401) return <SignInPage />
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
  useEffect(() => {
    void import('../player/leftovers').then(({ sendLeftovers }) => sendLeftovers())
  }, [])
  return (
    <div className="flex min-h-screen flex-col">
      <header className="flex items-stretch gap-7 border-b border-line px-5">
        <Link to="/build" className="figures py-1.5 text-xl">
          Hastatus
        </Link>
        <nav className="flex gap-6" aria-label="Places">
          {PLACES.map((place) => (
            <NavLink
              key={place}
              to={`/${place.toLowerCase()}`}
              className={({ isActive }) =>
                `flex items-center border-b-2 pt-0.5 ${isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`
              }
            >
              {place}
            </NavLink>
          ))}
        </nav>
        <Link to="/account" className="small ml-auto flex items-center hover:text-ink">
          {session?.club} · {session?.coach}
        </Link>
      </header>
      <Suspense fallback={<Waiting what="the sheet" />}>
        <Outlet />
      </Suspense>
    </div>
  )
}

/** Title line of a sheet, with what can be done on the right. */
export function Title(props: { over: string; title: string; children?: React.ReactNode }) {
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-3 border-b border-line px-5 pt-3 pb-2.5">
      <div className="mr-auto">
        <p className="small">{props.over}</p>
        <h1 className="text-3xl">{props.title}</h1>
      </div>
      {props.children}
    </div>
  )
}
