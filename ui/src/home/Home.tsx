import { useState } from 'react'

import { Waiting } from '../kit/notes'
import { usePageTitle } from '../kit/usePageTitle'
import { SessionPage } from './SessionPage'
import { Today } from './Today'
import { usePractice } from './usePractice'
import type { Going } from './going'

/** Practice at home: today's, then one run after another. */
export function Home({ token }: { token: string }) {
  const [going, go] = useState<Going | null>(null)
  const { practice, look, soundOnly } = usePractice(token, going !== null)
  usePageTitle('Practice')
  if (!practice) return <Waiting what="your practice" />
  const { view } = practice
  if (!view) {
    return (
      <main className="home">
        {practice.refused || (practice.missing === null && !practice.online) ? (
          <div role="alert">
            <h1>{practice.refused ? 'Not open' : 'No connection'}</h1>
            <p>
              {practice.refused ||
                'Nothing is saved on this phone yet. Open this page once where there is a connection.'}
            </p>
          </div>
        ) : (
          <Waiting what="your practice" />
        )}
      </main>
    )
  }
  if (going) {
    const done = () => {
      go(null)
      if (document.fullscreenElement) void document.exitFullscreen()
      void look()
    }
    return <SessionPage token={token} going={going} done={done} />
  }
  return <Today practice={practice} view={view} start={go} soundOnly={soundOnly} />
}
