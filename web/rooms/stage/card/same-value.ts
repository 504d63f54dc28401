import equal from 'fast-deep-equal';

/** The value that all of them are, or null when they are not alike. */
export function sameValue<T>(values: readonly T[]): T | null {
  const [first] = values;
  return first !== undefined && values.every((value) => equal(value, first)) ? first : null;
}
