import { useState } from 'react'

import { mended } from '../draft/document'
import { focusField } from '../draft/fieldFocus'
import type { Finding } from '../../api/types'
import { sentence } from '../../kit/format'
import { usePartnerBench } from './partnerBench'

/** What the checks found, each at its step, with the mend; what was waved through, and why. */
export function Checks() {
  const { findings, drawn } = usePartnerBench()
  const open = findings.filter((finding) => !finding.kept)
  const kept = findings.filter((finding) => finding.kept)
  return (
    <section aria-label="Checks" className="flex flex-col gap-2">
      <h2 className="small font-sans! font-normal!">Checks</h2>
      {drawn && open.length === 0 && <p>Limbs, sides, answers, distance, contact and pace: fit.</p>}
      <ul className="flex flex-col gap-2">
        {open.map((finding) => (
          <Open key={keyOf(finding)} finding={finding} />
        ))}
      </ul>
      {kept.length > 0 && (
        <ul className="small flex flex-col gap-1 border-t border-line pt-2" aria-label="Allowed">
          {kept.map((finding) => (
            <Waved key={keyOf(finding)} finding={finding} />
          ))}
        </ul>
      )}
    </section>
  )
}

function keyOf(finding: Finding): string {
  return `${finding.where} ${finding.check} ${finding.what}`
}

function Open({ finding }: { finding: Finding }) {
  const bench = usePartnerBench()
  const { document, replace, choose } = bench
  const [asking, setAsking] = useState(false)
  const place = document.passages.findIndex((passage) => passage.key === finding.passage)
  const mend = finding.mend
  const lead = () => {
    if (place >= 0) choose(place, finding.step)
    const [of, number = '', field = ''] = finding.where.split('.')
    if (of === 'rungs') {
      bench.chooseRung(Number(number))
      bench.setFact(field)
    }
    focusField(finding.where)
  }
  return (
    <li
      className={`border-l-4 bg-wash px-3 py-2 ${finding.level === 'stop' ? 'border-ink' : 'border-edge'}`}
    >
      <button className="block w-full cursor-pointer text-left" onClick={lead}>
        <b>{finding.level === 'stop' ? 'Cannot be run' : 'Look again'}</b>
        <span className="small">{placeOf(finding, document.passages[place]?.name)}</span>
        <span className="block first-letter:uppercase">{finding.what}</span>
      </button>
      <div className="mt-1.5 flex flex-wrap gap-2">
        {mend && (
          <button className="btn btn-sm" onClick={() => replace(mended(document, mend))}>
            {sentence(mend.label)}
          </button>
        )}
        {finding.level === 'hint' && finding.step !== null && !asking && (
          <button className="btn btn-sm" onClick={() => setAsking(true)}>
            Allow it, with a reason
          </button>
        )}
      </div>
      {asking && <Reason finding={finding} place={place} />}
    </li>
  )
}

/** Why a check is waved through; the reason stays with the step. */
function Reason({ finding, place }: { finding: Finding; place: number }) {
  const { document, set } = usePartnerBench()
  const [reason, setReason] = useState('')
  const keep = () => {
    const step = document.passages[place]?.steps[finding.step ?? -1]
    if (!step || !reason.trim()) return
    const kept = [...step.kept, { check: finding.check, reason: reason.trim() }]
    set(['passages', place, 'steps', finding.step ?? 0, 'kept'], kept)
  }
  return (
    <form
      className="mt-2 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        keep()
      }}
    >
      <input
        className="input input-sm flex-1"
        aria-label="Why it is allowed"
        placeholder="why it is allowed"
        maxLength={120}
        autoFocus
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button className="btn btn-sm" disabled={!reason.trim()}>
        Allow it
      </button>
    </form>
  )
}

function Waved({ finding }: { finding: Finding }) {
  const { document, set } = usePartnerBench()
  const place = document.passages.findIndex((passage) => passage.key === finding.passage)
  const again = () => {
    const step = document.passages[place]?.steps[finding.step ?? -1]
    const kept = step?.kept.filter((waiver) => waiver.check !== finding.check) ?? []
    set(['passages', place, 'steps', finding.step ?? 0, 'kept'], kept)
  }
  return (
    <li>
      {finding.what} <b>Allowed: {finding.kept}.</b>{' '}
      <button className="cursor-pointer underline" onClick={again}>
        Check it again
      </button>
    </li>
  )
}

function placeOf(finding: Finding, passage: string | undefined): string {
  const words = [passage, finding.beat ? `beat ${finding.beat}` : null].filter(Boolean)
  return words.length > 0 ? ` · ${words.join(', ')}` : ''
}
