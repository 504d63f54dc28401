import {
  BufferTarget,
  type AudioCodec,
  type VideoCodec,
  getFirstEncodableVideoCodec,
  Mp4OutputFormat,
  Output,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny';
import { plentifulBitrate, plentifulSound } from '../../../core/formats/fit-size.ts';
import { makeRestless } from '../../../core/formats/restless.ts';
import { i420Bytes, toLimitedI420 } from '../../../core/formats/yuv.ts';
import { everyFrame } from './frames.ts';
import { SoundTrack } from './sound.ts';
import type { ExportWork, ExportWriter } from './writer.ts';

/** H.264 in MP4. */
export const writeMp4: ExportWriter = (work) => writeVideo(work, kinds.mp4);

/** VP9 in WebM. */
export const writeWebm: ExportWriter = (work) => writeVideo(work, kinds.webm);

/** AV1 in WebM. */
export const writeAv1: ExportWriter = (work) => writeVideo(work, kinds.av1);

interface VideoKind {
  codec: VideoCodec;
  /** As it is called. */
  name: string;
  /** What else would do. */
  other: string;
  mp4: boolean;
  /** Bits it needs for the same look, as a share of those of H.264. */
  share: number;
  sound: AudioCodec[];
}

const kinds = {
  mp4: { codec: 'avc', name: 'MP4 (H.264)', other: 'WebM', mp4: true, share: 1, sound: ['aac', 'opus'] },
  webm: { codec: 'vp9', name: 'WebM (VP9)', other: 'MP4', mp4: false, share: 0.5, sound: ['opus', 'vorbis'] },
  av1: { codec: 'av1', name: 'AV1', other: 'WebM', mp4: false, share: 0.4, sound: ['opus', 'vorbis'] },
} satisfies Record<string, VideoKind>;

/** What players take for granted where nothing is said, and what is said all the same. */
const colorSpace = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false } as const;

async function writeVideo(
  { order, bitrate, soundBitrate, total, each, report, wrote }: ExportWork,
  { codec: wanted, name, other, mp4, share, sound: heard }: VideoKind,
): Promise<Blob | null> {
  const size = { width: order.width, height: order.height };
  const codec = await getFirstEncodableVideoCodec([wanted], size);
  if (!codec) {
    throw new Error(
      `This browser cannot write ${name} at ${size.width} x ${size.height}: take ${other} instead, or a smaller size.`,
    );
  }
  const target = new BufferTarget();
  const output = new Output({
    format: mp4 ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat(),
    target,
  });
  const plenty = plentifulBitrate(order) * share;
  const source = new VideoSampleSource({
    codec,
    bitrate: Math.round(bitrate ?? plenty),
    latencyMode: mp4 ? 'quality' : 'realtime',
    onEncodedPacket: (packet) => wrote?.(packet.byteLength),
  });
  output.addVideoTrack(source, { frameRate: order.rate });
  const sound = order.sound && (await SoundTrack.open(order.sound, heard, soundBitrate ?? plentifulSound));
  if (sound) output.addAudioTrack(sound.source);
  await output.start();
  const planes = new Uint8Array(i420Bytes(size.width, size.height));
  const done = await each(everyFrame(total), 'pixels', async (data, index) => {
    toLimitedI420(data, size.width, size.height, planes);
    if (mp4) makeRestless(planes.subarray(0, size.width * size.height), index);
    const sample = new VideoSample(planes, {
      format: 'I420',
      codedWidth: size.width,
      codedHeight: size.height,
      timestamp: index / order.rate,
      duration: 1 / order.rate,
      colorSpace,
    });
    await source.add(sample);
    sample.close();
    await sound?.upTo((index + 1) / order.rate);
    report(index + 1);
  });
  if (!done) {
    await output.cancel();
    return null;
  }
  await sound?.upTo(Infinity);
  await output.finalize();
  return new Blob([target.buffer!], { type: mp4 ? 'video/mp4' : 'video/webm' });
}
