import { config } from 'chai';

/**
 * What the runner of tests loads first. Chai looks at each word of an assertion whether it knows it, through a proxy that takes
 * two thirds of the time; here the compiler has seen to that, and tests compare pixels by the million.
 */
config.useProxy = false;
