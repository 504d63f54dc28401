/**
 * Solves M x = r for a symmetric positive n x n matrix by Cholesky's factors. A hair is added to the diagonal, so that a
 * matrix that says nothing about some unknown (a flat picture) gives 0 for it instead of dividing by zero.
 * @param matrix row by row, n * n numbers, of which the lower half is read
 * @param right n numbers
 */
export function solvePositive(matrix: Float64Array, right: Float64Array): Float64Array {
  const n = right.length;
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i * n + j]! + (i === j ? 1e-6 * matrix[i * n + i]! + 1e-9 : 0);
      for (let k = 0; k < j; k++) sum -= l[i * n + k]! * l[j * n + k]!;
      l[i * n + j] = i === j ? Math.sqrt(Math.max(1e-12, sum)) : sum / l[j * n + j]!;
    }
  }
  const x = Float64Array.from(right);
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) x[i]! -= l[i * n + k]! * x[k]!;
    x[i]! /= l[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i]! -= l[k * n + i]! * x[k]!;
    x[i]! /= l[i * n + i]!;
  }
  return x;
}
