import { expect } from 'chai';
import { emptyDocument, filesOf, readDocument } from '../document/document.ts';
import type { Sound } from '../document/sound.ts';
import type { Edit } from './edit.ts';
import { addSound, changeSound, removeSound, trimSoundEnd, trimSoundStart } from './sound-edits.ts';

const music: Sound = {
  id: 'music',
  name: 'Lantern song',
  file: 'a'.repeat(64),
  seconds: 20,
  at: 1,
  from: 2,
  length: 8,
  level: 1,
  fadeIn: 0,
  fadeOut: 0,
  muted: false,
};

describe('sounds of a project', () => {
  const start = addSound(music).apply(emptyDocument('Quay', { width: 640, height: 360, rate: 30 }, 4, 'shot'));
  const after = (edit: Edit): Partial<Sound> => edit.apply(start).sounds[0]!;

  it('are stored, need their file, and are none in projects from before', () => {
    expect(readDocument(JSON.parse(JSON.stringify(start))).sounds).to.deep.equal([music]);
    expect(filesOf(start)).to.deep.equal([music.file]);
    const { sounds, ...before } = start;
    expect(sounds).to.have.length(1);
    expect(readDocument(JSON.parse(JSON.stringify(before))).sounds).to.deep.equal([]);
    expect(removeSound('music').apply(start).sounds).to.deep.equal([]);
  });

  it('trimmed at the start, what is heard stays where it is, and no more than there is comes in', () => {
    expect(after(trimSoundStart('music', 2.5))).to.include({ at: 2.5, from: 3.5, length: 6.5 });
    expect(after(trimSoundStart('music', -9))).to.include({ at: -1, from: 0, length: 10 });
    expect(after(trimSoundStart('music', 50))).to.deep.include({ at: 8.95, length: 0.05 });
  });

  it('trimmed at the end, they end there, at most where the file does', () => {
    expect(after(trimSoundEnd('music', 4))).to.include({ at: 1, from: 2, length: 3 });
    expect(after(trimSoundEnd('music', 400))).to.include({ length: 18 });
    expect(after(trimSoundEnd('music', -3))).to.include({ length: 0.05 });
  });

  it('keep their name, and fades no longer than themselves', () => {
    const changed = changeSound('music', { name: '  ', fadeIn: 12, fadeOut: -1, level: 0.4 });
    expect(after(changed)).to.include({ name: 'Lantern song', fadeIn: 8, fadeOut: 0, level: 0.4 });
  });
});
