export { addInPlace, hardSwish, logistic, mean, rectify, scaleChannels } from './pointwise';
export { convolve, convolveDepthwise, convolveTransposed } from './convolve';
export { resizeBilinear } from './resize';
export { freeFrom, reserve } from '../memory';
