import { useState } from 'react'
import { Link, useNavigate } from 'react-router'

import { LEVEL } from '../../api/choices'
import { api, take } from '../../api/client'
import type { LibraryEntry } from '../../api/types'
import { nameOf } from '../../kit/names'
import type { RowPlace } from '../../kit/rowsProps'
import { DrillPicture } from './DrillPicture'
import { copyDraft } from '../draft/drafts'

type Props = {
  drill: LibraryEntry
  place: RowPlace
  putAway: () => void
  tag: (tags: string[]) => void
}

/** One drill of the library, with what can be done to it. */
export function LibraryRow({ drill, place, putAway, tag }: Props) {
  const navigate = useNavigate()
  const [tags, setTags] = useState<string | null>(null)
  const copy = async () => {
    const path = { drill_id: drill.id, number: drill.version }
    const view = await take(
      api.GET('/api/drills/{drill_id}/versions/{number}', { params: { path } }),
    )
    await navigate(`/build?drill=${await copyDraft(view.document, 'copy')}`)
  }
  const { least_minutes: short, most_minutes: long } = drill
  return (
    <tr {...place}>
      <td className="lg:w-28">
        <DrillPicture drill={drill} />
      </td>
      <td className="md:max-w-72">
        {drill.archived ? (
          <span dir="auto">{drill.title}</span>
        ) : (
          <Link
            dir="auto"
            className="inline-flex max-w-full items-center font-semibold hover:underline"
            to={`/build?drill=${drill.id}`}
          >
            <span className="truncate">{drill.title}</span>
          </Link>
        )}
      </td>
      <td className="md:max-w-72" data-wide data-label="Focus and tags">
        {tags === null ? (
          <button
            className="cursor-pointer text-left hover:underline"
            title="Change the tags"
            onClick={() => setTags(drill.tags.join(', '))}
          >
            {drill.focus.join(', ')}
            {drill.tags.length > 0 && <b> {drill.tags.join(', ')}</b>}
            {drill.focus.length + drill.tags.length === 0 && (
              <span className="text-soft">tag it</span>
            )}
          </button>
        ) : (
          <input
            aria-label={`Tags of ${drill.title}, with commas`}
            className="input w-full"
            autoFocus
            value={tags}
            onChange={(event) => setTags(event.target.value)}
            onBlur={() => setTags(null)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') setTags(null)
              if (event.key !== 'Enter') return
              tag(
                tags
                  .split(',')
                  .map((tag) => tag.trim())
                  .filter(Boolean),
              )
              setTags(null)
            }}
          />
        )}
      </td>
      <td className="md:max-xl:hidden" data-label="Level">
        {nameOf(LEVEL, drill.level)}
      </td>
      <td data-label="People">
        {drill.form === 'solo' ? 'solo' : drill.people === 3 ? 'three' : 'pair'}
      </td>
      <td className="figures text-right text-base whitespace-nowrap" data-label="Minutes">
        {short === long ? short : `${short}–${long}`}
      </td>
      <td
        className="figures text-right text-base whitespace-nowrap md:max-xl:hidden"
        data-label="Floor"
      >
        {drill.floor_m} m
      </td>
      <td className="truncate md:max-w-40 md:max-xl:hidden" data-label="Gear">
        {drill.gear.join(', ').replaceAll('_', ' ') || <span className="text-soft">none</span>}
      </td>
      <td className="figures text-right text-base md:max-xl:hidden" data-label="Rungs">
        {drill.rungs}
      </td>
      <td className="figures text-right text-base" data-label="Runs">
        {drill.runs}
      </td>
      <td className="text-right whitespace-nowrap">
        <button className="btn btn-xs btn-quiet" onClick={() => void copy()}>
          Copy
        </button>{' '}
        <button className="btn btn-xs btn-quiet" onClick={putAway}>
          {drill.archived ? 'Restore' : 'Archive'}
        </button>
      </td>
    </tr>
  )
}
