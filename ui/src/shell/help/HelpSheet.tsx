import { useEffect, useRef } from 'react'
import { useLocation } from 'react-router'

import { GLOSSARY } from '../../kit/glossary'
import { AWAY_KEYS, helpOf } from './help'

/** What this sheet is, what to do next, every key, and the words. */
export default function HelpSheet({ close }: { close: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null)
  const { pathname, search } = useLocation()
  const help = helpOf(pathname, search)
  useEffect(() => dialog.current?.showModal(), [])
  return (
    <dialog ref={dialog} className="help-sheet" aria-labelledby="help-title" onClose={close}>
      <div className="flex items-start justify-between gap-6">
        <h2 id="help-title" className="text-3xl">
          {help.title}
        </h2>
        <button className="btn btn-quiet" onClick={() => dialog.current?.close()}>
          Close <kbd className="kbd-hint">esc</kbd>
        </button>
      </div>
      <p>{help.what}</p>
      <p>
        <b>Next:</b> {help.next}
      </p>
      <div className="grid gap-x-10 gap-y-4 md:grid-cols-2">
        <section>
          <h3 className="text-xl">Keys</h3>
          <Pairs of={[['?', 'this sheet'], ...help.keys]} />
          <h3 className="mt-4 text-xl">On the floor and at the mat</h3>
          <Pairs of={AWAY_KEYS} />
        </section>
        <section>
          <h3 className="text-xl">Words</h3>
          <Pairs of={GLOSSARY} />
        </section>
      </div>
    </dialog>
  )
}

function Pairs({ of }: { of: readonly (readonly [string, string])[] }) {
  return (
    <dl className="facts help-pairs">
      {of.map(([name, what]) => (
        <div key={name + what} className="contents">
          <dt>{name}</dt>
          <dd>{what}</dd>
        </div>
      ))}
    </dl>
  )
}
