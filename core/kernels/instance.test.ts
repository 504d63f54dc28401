import { expect } from 'chai';
import { chromaCode } from './built/chroma.ts';
import { KernelCode, Layout, type Kernel } from './instance.ts';

describe('kernels', () => {
  it('run where their bytes are valid, and only there', () => {
    const base64Of = (bytes: Uint8Array): string => Buffer.from(bytes).toString('base64');
    // The shortest module there is: its magic number and its version.
    const least = Uint8Array.from([0, 0x61, 0x73, 0x6d, 1, 0, 0, 0]);
    expect(chromaCode.runs).to.equal(true);
    expect(new KernelCode(base64Of(least)).runs).to.equal(true);
    expect(new KernelCode(base64Of(least.slice(0, -1))).runs).to.equal(false);
    const none = new KernelCode('');
    expect(none.runs).to.equal(false);
    expect(() => none.instance()).to.throw(TypeError);
  });

  it('hand out memory in parts that lie apart, on boundaries of 16, and all of it usable', () => {
    const kernel = chromaCode.instance<Kernel>();
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
    const [first, second] = [chromaCode.instance<Kernel>(), chromaCode.instance<Kernel>()];
    first.reserve(5e6);
    expect(first.memory.buffer.byteLength).to.be.at.least(5e6);
    expect(second.memory.buffer.byteLength).to.be.below(5e6);
    const size = first.memory.buffer.byteLength;
    first.reserve(100);
    expect(first.memory.buffer.byteLength).to.equal(size);
  });
});
