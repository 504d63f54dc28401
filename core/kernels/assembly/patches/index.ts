export { reserve, freeFrom } from '../memory';
export { patchDistance, sparseDistance } from './distance';
export { sweepTargets, matchKnown } from './field';
export { countSources, enlargeMatches } from './matches';
export { voteTargets, takeOver } from './vote';
export { heaviestInRows, heaviestInColumns, copyHeaviest } from './copy';
