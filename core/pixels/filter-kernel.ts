import { filtersCode } from '../kernels/built/filters.ts';
import type { Kernel } from '../kernels/instance.ts';
import { SharedKernel } from '../kernels/shared.ts';

type Numbers = (...numbers: number[]) => void;

/** What the kernel in core/kernels/assembly/filters exports; addresses are numbers. */
interface FilterKernel extends Kernel {
  boxMean: Numbers;
  boxCounts: Numbers;
  averaged: Numbers;
  halve: Numbers;
  squaredDistance: Numbers;
  within: Numbers;
  brightness: Numbers;
  slopes: Numbers;
}

export const filterKernel = new SharedKernel<FilterKernel>(filtersCode);
