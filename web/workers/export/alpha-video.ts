import { BufferTarget, EncodedPacket, EncodedVideoPacketSource, Output, WebMOutputFormat } from 'mediabunny';
import { plentifulBitrate } from '../../../core/formats/fit-size.ts';
import { spreadColours } from '../../../core/formats/spread-colours.ts';
import { i420Bytes, toLimitedI420 } from '../../../core/formats/yuv.ts';
import { everyFrame } from './frames.ts';
import type { ExportWriter } from './writer.ts';

/** VP9, profile 0, 8 bits; the level is that of the largest pictures. */
const codec = 'vp09.00.50.08';
const secondsBetweenKeys = 5;
/** More frames than these are not kept waiting for a coder. */
const mostWaiting = 4;

/**
 * VP9 in WebM with alpha: colour and alpha are two streams, coded alike and put side by side in each block (WebM container
 * guidelines, BlockAdditions).
 */
export const writeAlphaWebm: ExportWriter = async ({ order, bitrate, total, each, report, wrote }) => {
  const { width, height, rate } = order;
  const bits = Math.round(bitrate ?? plentifulBitrate(order) * 0.5);
  const [colour, alpha] = [
    await Stream.open(width, height, rate, bits),
    await Stream.open(width, height, rate, bits / 3),
  ];
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new EncodedVideoPacketSource('vp9');
  output.addVideoTrack(source, { frameRate: rate });
  await output.start();
  /** Hands over what both coders have done. */
  const handOver = async (): Promise<void> => {
    while (colour.done[0] && alpha.done[0]) {
      const [{ chunk, meta }, { chunk: clear }] = [colour.done.shift()!, alpha.done.shift()!];
      const side = new Uint8Array(clear.byteLength);
      clear.copyTo(side);
      await source.add(EncodedPacket.fromEncodedChunk(chunk, { alpha: side }), meta);
      wrote?.(chunk.byteLength + clear.byteLength);
    }
  };
  try {
    const done = await each(everyFrame(total), 'pixels', async (data, index) => {
      const opacity = opacityPlanes(data, width, height);
      spreadColours(data, width, height);
      const planes = new Uint8Array(i420Bytes(width, height));
      toLimitedI420(data, width, height, planes);
      const key = index % Math.round(secondsBetweenKeys * rate) === 0;
      await Promise.all([colour.add(planes, index, key, false), alpha.add(opacity, index, key, true)]);
      await handOver();
      report(index + 1);
    });
    if (!done) {
      await output.cancel();
      return null;
    }
    await Promise.all([colour.finish(), alpha.finish()]);
    await handOver();
  } finally {
    colour.close();
    alpha.close();
  }
  await output.finalize();
  return new Blob([target.buffer!], { type: 'video/webm' });
};

/** Alpha as the luma of a picture without colour. */
function opacityPlanes(rgba: Uint8ClampedArray, width: number, height: number): Uint8Array {
  const out = new Uint8Array(i420Bytes(width, height)).fill(128);
  for (let i = 0; i < width * height; i++) out[i] = rgba[4 * i + 3]!;
  return out;
}

interface Coded {
  chunk: EncodedVideoChunk;
  meta: EncodedVideoChunkMetadata | undefined;
}

/** One of the two streams. */
class Stream {
  readonly done: Coded[] = [];
  private failed: Error | null = null;
  private readonly encoder: VideoEncoder;

  private constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly rate: number,
    config: VideoEncoderConfig,
  ) {
    this.encoder = new VideoEncoder({
      output: (chunk, meta) => this.done.push({ chunk, meta }),
      error: (error) => (this.failed = error),
    });
    this.encoder.configure(config);
  }

  /** @throws Error with a sentence where this browser cannot */
  static async open(width: number, height: number, rate: number, bitrate: number): Promise<Stream> {
    const config: VideoEncoderConfig = { codec, width, height, framerate: rate, bitrate, latencyMode: 'realtime' };
    const { supported } = await VideoEncoder.isConfigSupported(config);
    if (!supported)
      throw new Error(
        `This browser cannot write WebM with alpha at ${width} x ${height}: take APNG or Frames instead, or a smaller size.`,
      );
    return new Stream(width, height, rate, config);
  }

  async add(planes: Uint8Array, index: number, keyFrame: boolean, fullRange: boolean): Promise<void> {
    while (this.encoder.encodeQueueSize > mostWaiting && !this.failed)
      await new Promise((resolve) => this.encoder.addEventListener('dequeue', resolve, { once: true }));
    if (this.failed) throw this.failed;
    const frame = new VideoFrame(planes as Uint8Array<ArrayBuffer>, {
      format: 'I420',
      codedWidth: this.width,
      codedHeight: this.height,
      timestamp: Math.round((index * 1e6) / this.rate),
      duration: Math.round(1e6 / this.rate),
      colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange },
    });
    this.encoder.encode(frame, { keyFrame });
    frame.close();
  }

  async finish(): Promise<void> {
    await this.encoder.flush();
    if (this.failed) throw this.failed;
  }

  close(): void {
    if (this.encoder.state !== 'closed') this.encoder.close();
  }
}
