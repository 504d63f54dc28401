import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import Database from 'better-sqlite3';
import { expect } from 'chai';
import sharp from 'sharp';
import { UserError } from './errors.ts';
import { openDatabase } from './store/database.ts';
import { FileStore } from './store/files.ts';
import { Room } from './store/room.ts';
import { rename, TestServer } from './test-server.ts';

const megabyte = 1024 * 1024;

/** A disk of 96 MB, where this machine lets one be mounted. */
function mounted(): string | null {
  const folder = mkdtempSync(join(tmpdir(), 'clyvo-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=96m', 'tmpfs', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    rmSync(folder, { recursive: true });
    return null;
  }
}

describe('a full disk', () => {
  it('refuses what is large with what it needs, saves what is small, and is well again once there is room', async function () {
    const folder = mounted();
    if (!folder) return this.skip();
    const server = new TestServer();
    try {
      await server.start(folder);
      const { id } = await server.newProject();
      const picture = await sharp({ create: { width: 64, height: 64, channels: 3, background: '#345' } })
        .png()
        .toBuffer();
      // Somebody else fills the disk to the last byte.
      const { bavail, bsize } = statfsSync(folder);
      const filler = join(folder, 'filler');
      writeFileSync(filler, Buffer.alloc(bavail * bsize));
      const refused = await server.upload(picture, 'lantern.png');
      expect([refused.status, refused.body.message]).to.deep.equal([
        507,
        'The disk is full. This needs 0 MB and 0 MB are free. Delete exports or projects you no longer need, or make room elsewhere.',
      ]);
      // Edits go on for long: the reserve holds thousands of them.
      for (let k = 1; k <= 200; k++) {
        const answer = await server.change(id, k, 'Rename', rename(`Name ${k}`));
        expect(answer.status, JSON.stringify(answer.body)).to.equal(200);
      }
      expect(readdirSync(join(folder, 'files'))).to.deep.equal([]);
      await server.stop();
      // Also started anew on the full disk.
      await server.start(folder);
      expect((await server.call('GET', `/api/projects/${id}`)).body.document.name).to.equal('Name 200');
      expect((await server.change(id, 201, 'Rename', rename('Still'))).status).to.equal(200);
      rmSync(filler);
      expect((await server.upload(picture, 'lantern.png')).status).to.equal(201);
    } finally {
      await server.stop().catch(() => undefined);
      execFileSync('umount', ['-l', folder]);
      await rm(folder, { recursive: true, force: true });
    }
  });

  describe('at the store', () => {
    let folder: string;
    beforeEach(() => {
      folder = mkdtempSync(join(tmpdir(), 'clyvo-room-'));
    });
    afterEach(() => rmSync(folder, { recursive: true }));
    const full = (): never => {
      throw new Database.SqliteError('database or disk is full', 'SQLITE_FULL');
    };
    const parts = (): string[] => readdirSync(join(folder, 'files')).filter((name) => name.endsWith('.part'));

    it('gives the reserve up for something small, once, and takes it back when there is room', () => {
      const room = new Room(folder);
      expect(readdirSync(folder)).to.deep.equal(['reserve']);
      let attempts = 0;
      expect(room.keep(() => (attempts++ === 0 ? full() : 'saved'))).to.equal('saved');
      expect(readdirSync(folder)).to.deep.equal([]);
      room.refill();
      expect(readdirSync(folder)).to.deep.equal(['reserve']);
      expect(() => room.keep(full)).to.throw(UserError, 'The disk is full');
      const other = new Error('not about the disk');
      expect(() =>
        room.keep(() => {
          throw other;
        }),
      ).to.throw(other);
    });

    it('says how much a clip needs before it is sent, and what could be cleared', async () => {
      const room = new Room(folder, () => 250e6);
      Object.defineProperty(room, 'free', { get: () => 3e6 });
      const db = openDatabase(folder);
      const files = new FileStore(db, folder, room);
      const tooLarge = (): UserError => new UserError(413, 'too large');
      const error = await files.receive(Readable.from([]), 80e6, 400e6, tooLarge).catch((e: unknown) => e);
      expect(error).to.be.instanceOf(UserError);
      expect((error as UserError).message).to.equal(
        'The disk is full. This needs 80 MB and 3 MB are free. Deleted projects and exports still take 250 MB; clear them, or make room elsewhere.',
      );
      expect((error as UserError).extra).to.deep.equal({ clearable: 250e6 });
      db.close();
    });

    it('leaves nothing of a file that could not be written whole, or whose sender went away', async () => {
      const db = openDatabase(folder);
      const files = new FileStore(db, folder);
      const none = (): UserError => new UserError(413, 'too large');
      const failing = async function* (error: Error) {
        yield Buffer.alloc(megabyte);
        throw error;
      };
      const noSpace = Object.assign(new Error('write'), { code: 'ENOSPC' });
      for (const [error, status] of [
        [noSpace, 507],
        [new Error('gone'), undefined],
      ] as const) {
        const caught = await files.receive(Readable.from(failing(error)), 0, 1e9, none).catch((e: unknown) => e);
        expect((caught as UserError).status).to.equal(status);
        expect(parts()).to.deep.equal([]);
      }
      const long = Readable.from([Buffer.alloc(megabyte), Buffer.alloc(megabyte)]);
      const caught = await files.receive(long, 0, 1.5 * megabyte, none).catch((e: unknown) => e);
      expect([(caught as UserError).status, parts()]).to.deep.equal([413, []]);
      db.close();
    });
  });
});
