import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { FormEvent } from 'react'

import { api, take } from '../api/client'
import type { Student } from '../api/types'
import { Fault } from '../shell/Fault'

type Body = Pick<Student, 'name' | 'stance' | 'notes'>

/** Name, stance and notes of a new or a known student. */
export function StudentForm({ student, done }: { student?: Student; done: () => void }) {
  const queries = useQueryClient()
  const keep = useMutation({
    mutationFn: (body: Body) =>
      student
        ? take(
            api.PUT('/api/students/{student_id}', {
              params: { path: { student_id: student.id } },
              body,
            }),
          )
        : take(api.POST('/api/students', { body })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['students'] })
      done()
    },
  })
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    keep.mutate({
      name: String(form.get('name')),
      stance: form.get('stance') === 'right_lead' ? 'right_lead' : 'left_lead',
      notes: String(form.get('notes')),
    })
  }
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-4 border-b border-line py-3">
      <label className="flex flex-col gap-1">
        <span className="small">Name</span>
        <input
          name="name"
          className="input"
          required
          maxLength={120}
          defaultValue={student?.name}
          autoFocus
        />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">Stance</span>
        <select name="stance" className="select w-44" defaultValue={student?.stance}>
          <option value="left_lead">left hand leads</option>
          <option value="right_lead">right hand leads</option>
        </select>
      </label>
      <label className="flex grow flex-col gap-1">
        <span className="small">Notes</span>
        <input
          name="notes"
          className="input w-full"
          maxLength={2000}
          defaultValue={student?.notes}
        />
      </label>
      <button className="btn btn-primary" disabled={keep.isPending}>
        Keep
      </button>
      <button type="button" className="btn btn-quiet" onClick={done}>
        Leave it
      </button>
      <Fault error={keep.error} />
    </form>
  )
}
