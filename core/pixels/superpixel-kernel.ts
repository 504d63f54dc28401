import { superpixelsCode } from '../kernels/built/superpixels.ts';
import type { Kernel } from '../kernels/instance.ts';
import { SharedKernel } from '../kernels/shared.ts';

type Numbers = (...numbers: number[]) => void;

/** What the kernel in core/kernels/assembly/superpixels exports; addresses are numbers. */
interface SuperpixelKernel extends Kernel {
  clusters: Numbers;
  shortestPaths: Numbers;
}

export const superpixelKernel = new SharedKernel<SuperpixelKernel>(superpixelsCode);
