import { CONSENT, LEVEL, READINESS } from '../api/choices'
import type { Student, StudentBody } from '../api/types'
import { textOf } from '../kit/form'

/** What a coach has to know of a student in a class: level, injuries, senses, a guardian's consent. */
export function StudentFacts({ student }: { student: Student | undefined }) {
  return (
    <>
      <label className="flex flex-col gap-1">
        <span className="small">Level</span>
        <select name="level" className="select w-36" defaultValue={student?.level}>
          {LEVEL.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">To spare (an injury)</span>
        <input name="spares" className="input" maxLength={200} defaultValue={student?.spares} />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">Sight and hearing</span>
        <input name="senses" className="input" maxLength={200} defaultValue={student?.senses} />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">Ready for</span>
        <select
          name="readiness"
          className="select w-52"
          defaultValue={student?.readiness ?? 'free'}
        >
          {READINESS.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">Guardian’s consent</span>
        <select name="consent" className="select w-48" defaultValue={student?.consent}>
          {CONSENT.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
    </>
  )
}

type Facts = Pick<StudentBody, 'level' | 'spares' | 'senses' | 'consent' | 'readiness'>

/** What was said of it in a form. */
export function factsOf(form: FormData): Facts {
  return {
    level: LEVEL.find(([key]) => key === form.get('level'))?.[0] ?? 'new',
    spares: textOf(form, 'spares'),
    senses: textOf(form, 'senses'),
    consent: CONSENT.find(([key]) => key === form.get('consent'))?.[0] ?? 'not_needed',
    readiness: READINESS.find(([key]) => key === form.get('readiness'))?.[0] ?? 'free',
  }
}
