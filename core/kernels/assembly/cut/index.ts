export { reserve, freeFrom } from '../memory';
export { assignSamples, splitCluster, sumClusters } from './colours';
export { colourDistances } from './geodesic';
export { minimumCut } from './graph';
