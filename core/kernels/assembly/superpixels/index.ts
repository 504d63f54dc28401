export { freeFrom, reserve } from '../memory';
export { clusters } from './clusters';
export { shortestPaths } from './paths';
