import { AudioSample, AudioSampleSource, getFirstEncodableAudioCodec, type AudioCodec } from 'mediabunny';
import { lengthOf, type Samples } from '../../../core/sound/samples.ts';

/** Seconds of sound that are handed over at a time, so that it lies beside its pictures in the file. */
const stretch = 0.5;

/** The sound of a video, written along with its frames. */
export class SoundTrack {
  readonly source: AudioSampleSource;
  private done = 0;

  private constructor(
    private readonly samples: Samples,
    codec: AudioCodec,
    bitrate: number,
  ) {
    this.source = new AudioSampleSource({ codec, bitrate });
  }

  /** @throws Error with a sentence where this browser can write no sound */
  static async open(samples: Samples, codecs: AudioCodec[], bitrate: number): Promise<SoundTrack> {
    const options = { numberOfChannels: samples.channels.length, sampleRate: samples.rate, bitrate };
    const codec = await getFirstEncodableAudioCodec(codecs, options);
    if (!codec) throw new Error('This browser cannot write sound. Switch "Sound" off, or export in another browser.');
    return new SoundTrack(samples, codec, bitrate);
  }

  /** Hands over what is heard before a time, in seconds. */
  async upTo(time: number): Promise<void> {
    const { rate, channels } = this.samples;
    const end = Math.min(lengthOf(this.samples), Math.round((time + stretch) * rate));
    if (end - this.done < stretch * rate && end < lengthOf(this.samples)) return;
    while (this.done < end) {
      const next = Math.min(end, this.done + Math.round(stretch * rate));
      const count = next - this.done;
      const data = new Float32Array(count * channels.length);
      channels.forEach((channel, k) => data.set(channel.subarray(this.done, next), k * count));
      const sample = new AudioSample({
        data,
        format: 'f32-planar',
        numberOfChannels: channels.length,
        sampleRate: rate,
        timestamp: this.done / rate,
      });
      await this.source.add(sample);
      sample.close();
      this.done = next;
    }
  }
}
