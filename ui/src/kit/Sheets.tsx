/** A page on paper, and as tables for a spreadsheet: tables are names and addresses. */
export function Sheets({ tables }: { tables: readonly (readonly [name: string, url: string])[] }) {
  return (
    <>
      {tables.map(([name, url]) => (
        <a key={url} className="btn btn-quiet" href={url} download>
          {name}
        </a>
      ))}
      <button className="btn btn-quiet" onClick={() => window.print()}>
        Print
      </button>
    </>
  )
}
