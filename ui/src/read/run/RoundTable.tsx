import type { Readout, Response } from '../../api/types'
import { asSeconds, minutes } from '../../kit/format'
import { ChartTable } from '../../kit/ChartTable'
import { titleOf } from '../../strip/layout'

type Props = { readout: Readout; responses: Response[] }

/** What the strip of a round shows, line by line. */
export function RoundTable({ readout, responses }: Props) {
  const names = new Map(readout.cues.map((cue) => [cue.key, cue.name]))
  return (
    <ChartTable
      heads={['At', 'Cue', 'Answer', 'Window, s']}
      rows={responses.map((response, index) => ({
        id: String(index),
        cells: [
          minutes(response.at_s),
          names.get(response.cue) ?? response.cue,
          titleOf(response),
          asSeconds(response.window_ms),
        ],
      }))}
    />
  )
}
