import { ByteBuffer } from 'flatbuffers';

/** What a layer of a network does. Sides and strides are the same across and down in the networks that are read here. */
export type NetworkStep =
  | { kind: 'convolve' | 'depthwise'; weights: Weights; bias: Float32Array; stride: number; padded: boolean }
  | { kind: 'transposed'; weights: Weights; bias: Float32Array }
  | { kind: 'rectify' | 'hard-swish' | 'logistic' | 'mean' | 'resize' | 'add' | 'multiply' };

/** [outs][side][side][ins], as the file holds them. */
export interface Weights {
  shape: readonly number[];
  values: Float32Array;
}

/** Height, width and channels of what flows between layers. */
export type FlowShape = readonly [height: number, width: number, channels: number];

export interface NetworkLayer {
  step: NetworkStep;
  /** Numbers of what flows in and out. */
  inputs: readonly number[];
  output: number;
}

export interface NetworkModel {
  layers: readonly NetworkLayer[];
  shapes: ReadonlyMap<number, FlowShape>;
  input: number;
  output: number;
}

/** A model file that is not one, or does what cannot be evaluated here. */
export class UnreadableModel extends Error {
  constructor(what: string) {
    super(`The network could not be read: ${what}.`);
  }
}

/** Codes of operations in the format's schema. */
const operation = {
  add: 0,
  averagePool: 1,
  convolve: 3,
  depthwise: 4,
  dequantize: 6,
  logistic: 14,
  multiply: 18,
  rectify: 19,
  resize: 23,
  custom: 32,
  mean: 40,
  hardSwish: 117,
} as const;

const samePadding = 0;
const types = { float32: 0, float16: 1, int32: 2 } as const;

/** Tables of a FlatBuffer by the numbers of their fields, after the format's public schema. */
class Tables {
  private readonly buffer: ByteBuffer;
  readonly root: number;

  constructor(bytes: Uint8Array) {
    this.buffer = new ByteBuffer(bytes);
    if (bytes.length < 64 || this.buffer.getBufferIdentifier() !== 'TFL3')
      throw new UnreadableModel('it is no model file');
    this.root = this.buffer.readInt32(0);
  }

  private at(table: number, field: number): number {
    const offset = this.buffer.__offset(table, 4 + 2 * field);
    return offset === 0 ? 0 : table + offset;
  }

  byte(table: number, field: number): number {
    const at = this.at(table, field);
    return at ? this.buffer.readInt8(at) : 0;
  }

  integer(table: number, field: number, missing = 0): number {
    const at = this.at(table, field);
    return at ? this.buffer.readInt32(at) : missing;
  }

  text(table: number, field: number): string {
    const at = this.at(table, field);
    return at ? String(this.buffer.__string(at)) : '';
  }

  table(table: number, field: number): number | null {
    const at = this.at(table, field);
    return at ? this.buffer.__indirect(at) : null;
  }

  private vector(table: number, field: number): { start: number; length: number } {
    const at = this.at(table, field);
    return at ? { start: this.buffer.__vector(at), length: this.buffer.__vector_len(at) } : { start: 0, length: 0 };
  }

  tables(table: number, field: number): number[] {
    const { start, length } = this.vector(table, field);
    return Array.from({ length }, (_, k) => this.buffer.__indirect(start + 4 * k));
  }

  integers(table: number, field: number): number[] {
    const { start, length } = this.vector(table, field);
    return Array.from({ length }, (_, k) => this.buffer.readInt32(start + 4 * k));
  }

  bytes(table: number, field: number): Uint8Array {
    const { start, length } = this.vector(table, field);
    return this.buffer.bytes().slice(start, start + length);
  }
}

interface Tensor {
  shape: readonly number[];
  /** Values that stand in the file; null for what flows. */
  values: Float32Array | null;
}

/**
 * Reads a network of convolutions in the open .tflite format (its public FlatBuffers schema).
 * @throws UnreadableModel for another file, a broken one, or an operation that is not known here
 */
export function readModel(bytes: Uint8Array): NetworkModel {
  const tables = new Tables(bytes);
  const graph = tables.tables(tables.root, 2)[0];
  if (graph === undefined) throw new UnreadableModel('it holds no graph');
  const buffers = tables.tables(tables.root, 4).map((table) => tables.bytes(table, 0));
  const codes = tables.tables(tables.root, 1).map((table) => ({
    // Files older than the second field keep the code in the first.
    code: tables.integer(table, 3) || tables.byte(table, 0),
    name: tables.text(table, 1),
  }));
  const tensors = tables.tables(graph, 0).map((table): Tensor => {
    const data = buffers[tables.integer(table, 2)];
    const type = tables.byte(table, 1);
    return { shape: tables.integers(table, 0), values: data && data.length > 0 ? floatsOf(data, type) : null };
  });
  const layers: NetworkLayer[] = [];
  for (const table of tables.tables(graph, 3)) {
    const { code, name } = codes[tables.integer(table, 0)]!;
    const inputs = tables.integers(table, 1);
    const [output] = tables.integers(table, 2) as [number];
    // Halves were widened when they were read: what follows takes them as they are.
    if (code === operation.dequantize) tensors[output] = tensors[inputs[0]!]!;
    else layers.push(layerOf(tables, table, { code, name }, { inputs, output }, tensors));
  }
  const shapes = new Map<number, FlowShape>();
  for (const [k, { shape, values }] of tensors.entries())
    if (!values && shape.length === 4) shapes.set(k, [shape[1]!, shape[2]!, shape[3]!]);
  return { layers, shapes, input: tables.integers(graph, 1)[0]!, output: tables.integers(graph, 2)[0]! };
}

function layerOf(
  tables: Tables,
  table: number,
  { code, name }: { code: number; name: string },
  { inputs, output }: { inputs: number[]; output: number },
  tensors: readonly Tensor[],
): NetworkLayer {
  const flowing = inputs.filter((k) => tensors[k]!.values === null);
  const constant = (k: number): Weights => {
    const tensor = tensors[inputs[k]!];
    if (!tensor?.values) throw new UnreadableModel('a layer has no weights');
    return { shape: tensor.shape, values: tensor.values };
  };
  const options = tables.table(table, 4);
  const plain = (kind: 'rectify' | 'hard-swish' | 'logistic' | 'mean' | 'resize' | 'add' | 'multiply') => ({
    step: { kind },
    inputs: flowing,
    output,
  });
  const weighted = (kind: 'convolve' | 'depthwise'): NetworkLayer => {
    const stride = tables.integer(options!, 1, 1);
    const padded = tables.byte(options!, 0) === samePadding;
    return { step: { kind, weights: constant(1), bias: constant(2).values, stride, padded }, inputs: flowing, output };
  };
  switch (code) {
    case operation.convolve:
      return weighted('convolve');
    case operation.depthwise:
      return weighted('depthwise');
    case operation.rectify:
      return plain('rectify');
    case operation.hardSwish:
      return plain('hard-swish');
    case operation.logistic:
      return plain('logistic');
    case operation.add:
      return plain('add');
    case operation.multiply:
      return plain('multiply');
    case operation.resize:
      return plain('resize');
    // Pools here reach over the whole of what they are given, which is its mean.
    case operation.averagePool:
    case operation.mean:
      return plain('mean');
    case operation.custom:
      if (name === 'Convolution2DTransposeBias')
        return {
          step: { kind: 'transposed', weights: constant(1), bias: constant(2).values },
          inputs: flowing,
          output,
        };
  }
  throw new UnreadableModel(`its operation ${name || code} is not known here`);
}

function floatsOf(data: Uint8Array, type: number): Float32Array | null {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  if (type === types.float32)
    return Float32Array.from({ length: data.length >> 2 }, (_, k) => view.getFloat32(4 * k, true));
  if (type === types.float16)
    return Float32Array.from({ length: data.length >> 1 }, (_, k) => fromHalf(view.getUint16(2 * k, true)));
  if (type === types.int32)
    return Float32Array.from({ length: data.length >> 2 }, (_, k) => view.getInt32(4 * k, true));
  throw new UnreadableModel('its numbers are of a kind that is not known here');
}

/** A number of half precision (IEEE 754-2008, binary16). */
export function fromHalf(bits: number): number {
  const sign = bits & 0x8000 ? -1 : 1;
  const exponent = (bits >> 10) & 31;
  const fraction = bits & 1023;
  if (exponent === 0) return sign * fraction * 2 ** -24;
  if (exponent === 31) return fraction ? NaN : sign * Infinity;
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15);
}
