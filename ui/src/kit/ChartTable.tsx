import { Link } from 'react-router'

/** One row of what a chart shows. cells: what it says, under the table's heads. to: where it leads. */
export type ChartRow = { id: string; cells: string[]; to?: string }

/** What a chart shows, as a table that opens. */
export function ChartTable({
  heads,
  rows,
}: {
  heads: readonly string[]
  rows: readonly ChartRow[]
}) {
  return (
    <details className="small">
      <summary className="cursor-pointer whitespace-nowrap underline">As a table</summary>
      <div className="clear-both overflow-x-auto">
        <table className="table-sm mt-1 table w-auto">
          <thead>
            <tr>
              {heads.map((head) => (
                <th key={head}>{head}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id}>
                {row.cells.map((cell, index) => (
                  <td key={heads[index]} className="figures">
                    {row.to && index === 0 ? (
                      <Link className="underline" to={row.to}>
                        {cell}
                      </Link>
                    ) : (
                      cell
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  )
}
