import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode, Suspense, lazy, type ComponentType } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router'

import { ApiError, isSignedOut } from './api/client'
import { sessionQuery } from './api/queries'
import { Waiting } from './kit/notes'
import { UndoProvider } from './kit/UndoProvider'
import { Landing } from './shell/Landing'
import { Shell, SignedIn } from './shell/Shell'
import './theme.css'

const Build = lazy(() => import('./build/Build'))
const Words = lazy(() => import('./build/catalogue/Words'))
const Card = lazy(() => import('./build/print/Card'))
const Agree = lazy(() => import('./run/partner/Agree'))
const MatPage = lazy(() => import('./run/partner/MatPage'))
const FeederScreen = lazy(() => import('./run/partner/FeederScreen'))
const ReadPair = lazy(() => import('./read/partner/ReadPair'))
const FeedSheet = lazy(() => import('./build/partner/FeedPage'))
const Device = lazy(() => import('./run/device/Device'))
const Run = lazy(() => import('./run/start/Run'))
const Floor = lazy(() => import('./run/floor/Floor'))
const Read = lazy(() => import('./read/run/Read'))
const Compare = lazy(() => import('./read/run/Compare'))
const Runs = lazy(() => import('./read/lists/Runs'))
const People = lazy(() => import('./people/People'))
const HomePractice = lazy(() => import('./people/home/HomePractice'))
const Person = lazy(() => import('./people/Person'))
const AuditLog = lazy(() => import('./read/lists/AuditLog'))
const Log = lazy(() => import('./read/lists/Log'))
const Tonight = lazy(() => import('./hall/Tonight'))
const CallCards = lazy(() => import('./hall/CallCards'))
const PairSheets = lazy(() => import('./hall/PairSheets'))
const RunClass = lazy(() => import('./hall/RunClass'))
const Wall = lazy(() => import('./hall/Wall'))
const Codes = lazy(() => import('./hall/Codes'))
const After = lazy(() => import('./hall/After'))
const Incidents = lazy(() => import('./hall/Incidents'))
const ClassLog = lazy(() => import('./hall/ClassLog'))
const PhonePage = lazy(() => import('./hall/PhonePage'))
const Join = lazy(() => import('./shell/Join'))
const Account = lazy(() => import('./shell/Account'))

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => !(error instanceof ApiError) && failures < 2,
      staleTime: 5_000,
    },
  },
})

queries.getQueryCache().subscribe(({ query, type }) => {
  const lost = type === 'updated' && isSignedOut(query.state.error)
  if (lost && !query.meta?.asksItself && (query.queryKey as unknown[])[0] !== 'session') {
    void queries.resetQueries({ queryKey: sessionQuery.queryKey })
  }
})

const router = createBrowserRouter([
  { path: '/mine/:code', element: <Alone of={PhonePage} what="your evening" /> },
  { path: '/join/:token', element: <Alone of={Join} what="the link" /> },
  {
    element: <SignedIn />,
    children: [
      { path: '/runs/:id/floor', element: <Floor /> },
      { path: '/card/:id', element: <Card /> },
      { path: '/feed/:id', element: <FeedSheet /> },
      { path: '/calls/:id/:block', element: <CallCards /> },
      { path: '/sheets/:id/:block', element: <PairSheets /> },
      { path: '/tonight/:id/run', element: <RunClass /> },
      { path: '/tonight/:id/wall', element: <Wall /> },
      { path: '/tonight/:id/codes', element: <Codes /> },
      { path: '/pairs/:id/mat', element: <MatPage /> },
      { path: '/pairs/:id/feeder', element: <FeederScreen /> },
      {
        element: <Shell />,
        children: [
          { path: '/', element: <Landing /> },
          { path: '/tonight', element: <Tonight /> },
          { path: '/tonight/:id', element: <Tonight /> },
          { path: '/tonight/:id/after', element: <After /> },
          { path: '/build', element: <Build /> },
          { path: '/build/words', element: <Words /> },
          { path: '/run', element: <Run /> },
          { path: '/pair', element: <Agree /> },
          { path: '/pairs/:id', element: <ReadPair /> },
          { path: '/read', element: <Runs /> },
          { path: '/read/:id', element: <Read /> },
          { path: '/compare', element: <Compare /> },
          { path: '/people', element: <People /> },
          { path: '/people/home', element: <HomePractice /> },
          { path: '/people/:id', element: <Person /> },
          { path: '/log', element: <Log /> },
          { path: '/log/incidents', element: <Incidents /> },
          { path: '/log/audit', element: <AuditLog /> },
          { path: '/log/classes', element: <ClassLog /> },
          { path: '/device', element: <Device /> },
          { path: '/account', element: <Account /> },
          { path: '*', element: <Navigate to="/build" replace /> },
        ],
      },
    ],
  },
])

/** A page of somebody who has no account, or none yet. */
function Alone({ of: Page, what }: { of: ComponentType; what: string }) {
  return (
    <Suspense fallback={<Waiting what={what} />}>
      <Page />
    </Suspense>
  )
}

const root = document.getElementById('root')
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <UndoProvider>
          <RouterProvider router={router} />
        </UndoProvider>
      </QueryClientProvider>
    </StrictMode>,
  )
}
