import { expect } from 'chai';
import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { seededRandom } from '../core/pixels/random.ts';
import { addKey } from '../core/edits/layer-edits.ts';
import { becomes, dismissNotices, goTo, newestExport, saved, useApp } from './harness.ts';
import { card, field, openStage, projectWith, row, stored, type } from './stage-world.ts';

const rate = 44_100;

/** A WAV file (RIFF, PCM of 16 bits, one channel) with a strike at each time. */
function wav(strikes: readonly number[], seconds: number): Buffer {
  const random = seededRandom(11);
  const out = Buffer.alloc(44 + 2 * Math.round(seconds * rate));
  out.write('RIFF', 0, 'latin1');
  out.writeUInt32LE(out.length - 8, 4);
  out.write('WAVEfmt ', 8, 'latin1');
  out.writeUInt32LE(16, 16);
  out.writeUInt16LE(1, 20);
  out.writeUInt16LE(1, 22);
  out.writeUInt32LE(rate, 24);
  out.writeUInt32LE(2 * rate, 28);
  out.writeUInt16LE(2, 32);
  out.writeUInt16LE(16, 34);
  out.write('data', 36, 'latin1');
  out.writeUInt32LE(out.length - 44, 40);
  for (const time of strikes)
    for (let k = 0; k < 0.1 * rate; k++) {
      const at = 44 + 2 * (Math.round(time * rate) + k);
      if (at < out.length) out.writeInt16LE(Math.round(20_000 * (2 * random() - 1) * Math.exp(-k / (0.02 * rate))), at);
    }
  return out;
}

/** When in a file something is first loud, and whether it goes on to the end, as the browser decodes it. */
function heardIn(page: Page, file: Buffer): Promise<{ first: number; seconds: number }> {
  return page.evaluate(async (text) => {
    const bytes = Uint8Array.fromBase64(text);
    const buffer = await new OfflineAudioContext(2, 1, 48_000).decodeAudioData(bytes.buffer);
    const wave = buffer.getChannelData(0);
    return { first: wave.findIndex((v) => Math.abs(v) > 0.15) / 48_000, seconds: buffer.duration };
  }, file.toString('base64'));
}

async function exported(page: Page, button: string, hint: string): Promise<Buffer> {
  await page.getByRole('radio', { name: hint }).click();
  await page.getByRole('radio', { name: '640 × 360' }).click();
  await page.getByRole('button', { name: button, exact: true }).click();
  await page.getByText(new RegExp(`${button.slice(7)} is ready`)).waitFor();
  return readFile((await newestExport(page)).path);
}

describe('sound', () => {
  const app = useApp();
  let url = '';
  before(async () => {
    url = await projectWith(app, (d) => [
      card(d, 'lamp', [240, 200, 60]),
      addKey(d.shots[0]!.id, 'lamp', 'position', 3, [0, 0]),
      addKey(d.shots[0]!.id, 'lamp', 'position', 40, [200, 0]),
    ]);
  });

  const addSound = async (page: Page, name: string, bytes: Buffer): Promise<void> => {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Add sound' }).click(),
    ]);
    await chooser.setFiles({ name, mimeType: 'audio/wav', buffer: bytes });
  };
  const bar = (page: Page) => page.locator('[data-sound]');
  /** Where a frame lies on the track, by the bar of a sound that begins at frame 0 and lasts two seconds. */
  const xOf = async (page: Page, share: number): Promise<[number, number]> => {
    const box = (await bar(page).boundingBox())!;
    return [box.x + share * box.width, box.y + box.height / 2];
  };

  it('comes in under the timeline, shows what beats in it, and keys that are dragged close to a start are caught by it', async () => {
    const page = await openStage(app, url);
    await addSound(page, 'harbour drum.wav', wav([0.5, 1, 1.5], 2));
    await bar(page).waitFor();
    await becomes(() => field(page, 'Duration').inputValue(), '2');
    await page.getByText(/3 loud starts/).waitFor();
    await saved(page);
    await row(page, 'lamp').click();
    const key = page.getByRole('button', { name: 'Position keyframe at frame 40' });
    const box = (await key.boundingBox())!;
    const [x0, y0] = [box.x + box.width / 2, box.y + box.height / 2];
    // The strike at 1.5 s is frame 45; the hand stops a little before it.
    const [target] = await xOf(page, 45 / 60);
    await page.mouse.move(x0, y0);
    await page.mouse.down();
    for (let k = 1; k <= 12; k++) await page.mouse.move(x0 + ((target - 5 - x0) * k) / 12, y0);
    await page.mouse.up();
    await page.getByRole('button', { name: 'Position keyframe at frame 45' }).waitFor();
  });

  it('a slow hand moves and trims it; fields say and set how it is heard; undo takes it back', async () => {
    const page = await openStage(app, url);
    await page.getByLabel('Sound', { exact: true }).getByRole('button', { name: 'harbour drum' }).click();
    const pull = async (share: number, by: number): Promise<void> => {
      const [x, y] = await xOf(page, share);
      await page.mouse.move(x, y);
      await page.mouse.down();
      for (let k = 1; k <= 10; k++) await page.mouse.move(x + (by * k) / 10, y);
      await page.mouse.up();
    };
    const [perFrame] = [((await bar(page).boundingBox())!.width + 0) / 60];
    await pull(0.4, 15 * perFrame);
    expect(Number(await field(page, 'Start').inputValue())).to.be.closeTo(0.5, 0.04);
    await page.keyboard.press('Control+z');
    await becomes(() => field(page, 'Start').inputValue(), '0');
    await pull(0.002, 9 * perFrame);
    const sound = (await stored(page)).sounds[0]!;
    expect(sound.from).to.be.closeTo(0.3, 0.04);
    expect(sound.at).to.be.closeTo(sound.from, 1e-6);
    expect(sound.length).to.be.closeTo(2 - sound.from, 1e-6);
    await type(page, 'Start', 0);
    await type(page, 'Level', 50);
    await type(page, 'Fade out', 0.2);
    expect((await stored(page)).sounds[0]).to.include({ at: 0, level: 0.5, fadeOut: 0.2 });
    // Delete belongs to what is selected.
    await page.getByRole('button', { name: 'Delete sound' }).click();
    await bar(page).waitFor({ state: 'detached' });
    await page.keyboard.press('Control+z');
    await bar(page).waitFor();
    // The next ones open what is stored.
    await saved(page);
  });

  it('what is no sound is refused with its name, and sounds dropped elsewhere say where they belong', async () => {
    const page = await openStage(app, url);
    await addSound(page, 'letter.wav', Buffer.from('Dear harbour master, this is a letter.'));
    await page.getByText(/letter.wav: This browser cannot read it as a sound/).waitFor();
    expect((await stored(page)).sounds).to.have.length(1);
  });

  it('plays in step with the picture within a frame, round and round', async () => {
    const page = await app.open();
    await page.addInitScript(() => {
      const start = AudioBufferSourceNode.prototype.start;
      AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0) {
        Object.assign(window, { voice: { node: this, when, offset } });
        return start.call(this, when, offset);
      };
    });
    await page.goto(url);
    await page.locator('[data-painted]').waitFor();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await page.waitForFunction(() => 'voice' in window);
    const off = await page.evaluate(async () => {
      // A machine that has much to do may let the sound begin again meanwhile: what counts is the one heard last.
      const last = window as unknown as { voice: { node: AudioBufferSourceNode; when: number; offset: number } };
      const { node } = last.voice;
      const context = node.context as AudioContext;
      const shown = document.querySelector('[data-testid=playhead]')!;
      const length = node.loopEnd - node.loopStart;
      const found: number[] = [];
      const began = context.currentTime;
      // More than once around.
      while (context.currentTime - began < length + 1) {
        await new Promise((resolve) => requestAnimationFrame(resolve));
        await new Promise((resolve) => requestAnimationFrame(resolve));
        const { when, offset } = last.voice;
        const heard = (offset + context.currentTime - when - context.outputLatency) % length;
        const frame = Number(/frame (\d+)/.exec(shown.textContent!)![1]);
        // Just at the seam one of both may be around already.
        const apart = Math.abs(heard - (frame + 0.5) / 30);
        found.push(Math.min(apart, length - apart));
      }
      return found;
    });
    expect(off.length).to.be.greaterThan(10);
    off.sort((a, b) => a - b);
    // Now and then the machine is late with a picture; the clock is the sound's all the same.
    expect(off[Math.floor(off.length * 0.8)]).to.be.lessThan(1.5 / 30);
    await page.getByRole('button', { name: 'Play without sound' }).click();
    await page.getByRole('button', { name: 'Play with sound' }).waitFor();
  });

  it('is in MP4 and WebM at its time, fits under a limit with them, and stays out where it is switched off', async () => {
    const page = await openStage(app, url);
    await page.getByLabel('Sound', { exact: true }).getByRole('button', { name: 'harbour drum' }).click();
    await type(page, 'From, in the file', 0);
    await type(page, 'Level', 100);
    await saved(page);
    await goTo(page, 'Deliver');
    for (const [name, hint] of [
      ['MP4', 'H.264'],
      ['WebM', 'VP9, smaller'],
    ] as const) {
      const { first, seconds } = await heardIn(page, await exported(page, `Export ${name}`, hint));
      expect(first, name).to.be.closeTo(0.5, 1 / 30);
      expect(seconds, name).to.be.closeTo(2, 0.1);
      await dismissNotices(page, new RegExp(`${name} is ready`));
    }
    await page.getByRole('switch', { name: 'Limit the file size' }).click();
    await page.getByRole('textbox', { name: 'At most' }).fill('60');
    await page.keyboard.press('Enter');
    const small = await exported(page, 'Export MP4', 'H.264');
    expect(small.length).to.be.lessThan(60_000);
    expect((await heardIn(page, small)).first).to.be.closeTo(0.5, 1 / 30);
    await dismissNotices(page, /MP4 is ready/);
    await page.getByRole('switch', { name: 'Sound' }).click();
    const silent = await exported(page, 'Export MP4', 'H.264');
    expect(silent.includes('soun')).to.equal(false);
    expect(small.includes('soun')).to.equal(true);
  });
});
