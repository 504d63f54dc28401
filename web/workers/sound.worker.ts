import '../data/without-eval.ts';
import { beatsOf } from '../../core/sound/beats.ts';
import { loudStarts, noveltyOf } from '../../core/sound/onsets.ts';
import { peaksOf } from '../../core/sound/peaks.ts';
import { peakRate, soundRequestSchema, type SoundFacts } from './sound-messages.ts';

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const { mono, rate } = soundRequestSchema.parse(data);
  const novelty = noveltyOf(mono, rate);
  const beats = beatsOf(novelty);
  const facts: SoundFacts = {
    peaks: peaksOf(mono, Math.max(1, Math.ceil((mono.length / rate) * peakRate))),
    starts: loudStarts(novelty).map(({ time }) => time),
    beats: beats?.times ?? [],
    tempo: beats?.tempo ?? null,
  };
  self.postMessage(facts);
};
