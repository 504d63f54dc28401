export { reserve, freeFrom } from '../memory';
export { assignSamples, splitCluster, sumClusters } from './colours';
export { minimumCut } from './graph';
