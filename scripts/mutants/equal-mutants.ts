/** A fault that cannot change any answer, and why. */
interface EqualMutant {
  file: string;
  original: string;
  replacement: string;
  why: string;
}

/** Set aside by name: no test could notice them. */
export const equalMutants: EqualMutant[] = [
  {
    file: 'core/scene/repeat-line.ts',
    original: 'line.length - 1',
    replacement: 'line.length + 1',
    why: 'Beyond the last of the ways there is nothing, which ends the search as well.',
  },
  {
    file: 'core/scene/repeat.ts',
    original: "repeat.form === 'grid' && isEven(repeat)",
    replacement: 'false',
    why: 'Rows painted together look as their copies one by one do; they are only quicker.',
  },
  {
    file: 'core/path/fit.ts',
    original: 'k + step * j',
    replacement: 'k - step * j',
    why: 'A line turns as sharply seen from its other end.',
  },
  {
    file: 'core/depth/relief.ts',
    original: 'row < area.height',
    replacement: 'row <= area.height',
    why: 'The row more lies beyond the array and is written nowhere.',
  },
  {
    file: 'core/depth/relief.ts',
    original: 'gap < 0',
    replacement: 'gap <= 0',
    why: 'A ray that ends on the surface has met it where it is.',
  },
  {
    file: 'core/depth/relief.ts',
    original: 'above > 0',
    replacement: 'true',
    why: 'A ray begins at the highest the surface is around it, never below it.',
  },
];
