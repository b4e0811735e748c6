/** The solution of a symmetric, positive definite system, by its Cholesky factor. */
export function solve(matrix: Float64Array, right: Float64Array): Float64Array {
  const size = right.length
  const factor = matrix.slice()
  const at = (row: number, column: number) => factor[row * size + column] ?? 0
  for (let row = 0; row < size; row++)
    for (let column = 0; column <= row; column++) {
      let sum = at(row, column)
      for (let term = 0; term < column; term++) sum -= at(row, term) * at(column, term)
      factor[row * size + column] = row === column ? Math.sqrt(sum) : sum / at(column, column)
    }
  const found = right.slice()
  for (let row = 0; row < size; row++) {
    let sum = found[row] ?? 0
    for (let term = 0; term < row; term++) sum -= at(row, term) * (found[term] ?? 0)
    found[row] = sum / at(row, row)
  }
  for (let row = size - 1; row >= 0; row--) {
    let sum = found[row] ?? 0
    for (let term = row + 1; term < size; term++) sum -= at(term, row) * (found[term] ?? 0)
    found[row] = sum / at(row, row)
  }
  return found
}
