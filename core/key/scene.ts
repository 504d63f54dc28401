import type { Blocks } from './blocks.ts';
import type { Cells } from './cells.ts';
import type { Thresholds } from './mixture.ts';
import type { SubjectColours } from './subject.ts';

/** What was measured in a picture before its alpha is solved. */
export interface Scene {
  blocks: Blocks;
  screen: Cells;
  subject: SubjectColours;
  thresholds: Thresholds;
}
