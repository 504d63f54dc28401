import {
  ALL_FORMATS,
  BlobSource,
  EncodedPacketSink,
  Input,
  VideoSampleSink,
  type InputVideoTrack,
  type VideoSample,
} from 'mediabunny';
import { halfOf } from '../../core/paint/halvings.ts';
import { UnreadableClip, workedSize, type ClipFacts, type FrameReader } from './frame-reader.ts';

/** Reads single frames of a video; frames that follow one another cost one decoding each. */
export class ClipReader implements FrameReader {
  private iterator: AsyncGenerator<VideoSample, void, unknown> | null = null;
  private held: VideoSample | null = null;
  private ahead: VideoSample | null = null;
  private last = -1;
  private waiting: Promise<unknown> = Promise.resolve();

  private constructor(
    private readonly sink: VideoSampleSink,
    private readonly first: number,
    readonly facts: ClipFacts,
  ) {}

  /** @throws UnreadableClip, or anything where the file is damaged */
  static async open(blob: Blob, name: string): Promise<ClipReader> {
    const input = new Input({ source: new BlobSource(blob), formats: ALL_FORMATS });
    const track = await input.getPrimaryVideoTrack().catch(() => null);
    if (!track) throw new UnreadableClip(name, 'is not a clip Clyvo can read. Bring in MP4, WebM or MOV.');
    if (!(await track.canDecode()))
      throw new UnreadableClip(
        name,
        'is in a format this browser cannot decode. Convert it to H.264 or VP9 and retry.',
      );
    if (await track.hasHighDynamicRange().catch(() => false))
      throw new UnreadableClip(
        name,
        'has a high dynamic range, whose colours would come out wrong here. Convert it to standard range (SDR) and retry.',
      );
    const share = await shareThatIsThere(track);
    if (share < leastShare)
      throw new UnreadableClip(name, 'was cut short: nearly nothing of it is there. Copy it again and retry.');
    const facts = await factsOf(track, share);
    return new ClipReader(new VideoSampleSink(track), await track.getFirstTimestamp(), facts);
  }

  frame(index: number, halved = false): Promise<ImageBitmap> {
    const answer = this.waiting.then(() => this.read(index, halved));
    this.waiting = answer.catch(() => undefined);
    return answer;
  }

  /** Lets go of decoded frames; the reader is not used again. */
  close(): void {
    this.waiting = this.waiting.then(() => this.letGo());
  }

  private async letGo(): Promise<void> {
    this.held?.close();
    this.ahead?.close();
    this.held = this.ahead = null;
    await this.iterator?.return();
  }

  private async read(index: number, halved: boolean): Promise<ImageBitmap> {
    const { rate } = this.facts;
    const [width, height] = halved ? halfOf(this.facts) : [this.facts.width, this.facts.height];
    // The middle of a frame's time, so that rounding never hits its neighbour.
    const time = this.first + (index + 0.5) / rate;
    if (!this.held || index < this.last || index - this.last > 24) await this.restart(time);
    while (this.ahead && this.ahead.timestamp <= time) {
      this.held?.close();
      this.held = this.ahead;
      this.ahead = await this.next();
    }
    this.last = index;
    if (!this.held) throw new Error('A frame of a clip could not be decoded.');
    const canvas = new OffscreenCanvas(width, height);
    this.held.draw(canvas.getContext('2d')!, 0, 0, width, height);
    return canvas.transferToImageBitmap();
  }

  private async restart(time: number): Promise<void> {
    await this.letGo();
    this.iterator = this.sink.samples(time);
    this.held = await this.next();
    this.ahead = await this.next();
  }

  private async next(): Promise<VideoSample | null> {
    const { value } = await this.iterator!.next();
    return value ?? null;
  }
}

/**
 * The share of a clip's time up to which its frames can be read. A file that names all its frames in front and ends too
 * early looks whole until its end is asked for.
 */
async function shareThatIsThere(track: InputVideoTrack): Promise<number> {
  const sink = new EncodedPacketSink(track);
  const isThere = async (time: number): Promise<boolean> => {
    const packet = await sink.getPacket(time).catch(() => null);
    return !!packet && packet.data.byteLength === packet.byteLength && packet.byteLength > 0;
  };
  const [first, end] = [await track.getFirstTimestamp(), await track.computeDuration()];
  if (await isThere(Infinity)) return 1;
  let [there, gone] = [0, 1];
  while (gone - there > 0.004) {
    const middle = (there + gone) / 2;
    if (await isThere(first + (end - first) * middle)) there = middle;
    else gone = middle;
  }
  return there;
}

/** Less than this of a clip is as good as none. */
const leastShare = 0.02;
/** Frames before the place where a file breaks off that may not be decoded any more. */
const unsure = 2;

async function factsOf(track: InputVideoTrack, share: number): Promise<ClipFacts> {
  const [stats, duration, first] = await Promise.all([
    track.computePacketStats(),
    track.computeDuration(),
    track.getFirstTimestamp(),
  ]);
  const rate = Math.max(0.1, Math.min(240, Math.round(stats.averagePacketRate * 1000) / 1000));
  const frames = Math.round((duration - first) * rate);
  return {
    ...workedSize(track.displayWidth, track.displayHeight),
    frames: Math.max(1, share < 1 ? Math.floor(frames * share) - unsure : frames),
    rate,
    alpha: false,
    missing: share < 1 ? missingOf(share) : null,
  };
}

const missingOf = (share: number): string =>
  share < 0.995 ? `only ${Math.max(1, Math.round(share * 100))} % of it is there` : 'its end is missing';
