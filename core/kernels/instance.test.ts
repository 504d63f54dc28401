import { expect } from 'chai';
import { chromaKernelBytes } from './built/chroma.ts';
import { canRun, instanceOf, Layout, type Kernel } from './instance.ts';

describe('kernels', () => {
  it('run where their bytes are valid, and only there', () => {
    expect(canRun(chromaKernelBytes)).to.equal(true);
    expect(canRun(chromaKernelBytes.slice(0, -40))).to.equal(false);
    expect(canRun(new Uint8Array())).to.equal(false);
    expect(() => instanceOf(new Uint8Array([1, 2, 3]))).to.throw();
  });

  it('hand out memory in parts that lie apart, on boundaries of 16, and all of it usable', () => {
    const kernel = instanceOf<Kernel>(chromaKernelBytes);
    const layout = new Layout(kernel);
    const sizes = [1, 16, 17, 1_000_003, 0, 5];
    const parts = sizes.map((size) => ({ size, at: layout.take(size) }));
    layout.reserve();
    expect(parts[0]!.at).to.be.at.least(kernel.freeFrom());
    const memory = new Uint8Array(kernel.memory.buffer);
    parts.forEach(({ size, at }, k) => {
      expect(at % 16).to.equal(0);
      memory.fill(k + 1, at, at + size);
    });
    parts.forEach(({ size, at }, k) => {
      expect(at + size).to.be.at.most(memory.length);
      expect(new Set(memory.subarray(at, at + size))).to.deep.equal(new Set(size > 0 ? [k + 1] : []));
    });
  });

  it('keep their memory to themselves, and give none of it back', () => {
    const [first, second] = [instanceOf<Kernel>(chromaKernelBytes), instanceOf<Kernel>(chromaKernelBytes)];
    first.reserve(5e6);
    expect(first.memory.buffer.byteLength).to.be.at.least(5e6);
    expect(second.memory.buffer.byteLength).to.be.below(5e6);
    const size = first.memory.buffer.byteLength;
    first.reserve(100);
    expect(first.memory.buffer.byteLength).to.equal(size);
  });
});
