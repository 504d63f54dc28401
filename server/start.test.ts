import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdir, mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { pino } from 'pino';
import { StartProblem } from './errors.ts';
import { start } from './start.ts';
import { openDatabase } from './store/database.ts';

const root = join(import.meta.dirname, '..');

/** The server as it is started from outside, with what it says. */
class Process {
  said = '';
  readonly ended: Promise<number | null>;
  private readonly child: ChildProcess;

  constructor(folder: string, port: string | number = 0) {
    const env = { ...process.env, CLYVO_DATA: folder, PORT: String(port), NODE_NO_WARNINGS: '1' };
    this.child = spawn(process.execPath, ['dist/server.js'], { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] });
    const hear = (piece: Buffer): void => void (this.said += piece.toString());
    this.child.stdout!.on('data', hear);
    this.child.stderr!.on('data', hear);
    this.ended = new Promise((resolve) => this.child.once('exit', resolve));
  }

  async address(): Promise<string> {
    for (;;) {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(this.said);
      if (found) return found[0];
      const over = await Promise.race([this.ended.then(() => true), new Promise((r) => setTimeout(r, 50))]);
      if (over === true) throw new Error(this.said);
    }
  }

  end(signal: NodeJS.Signals): Promise<number | null> {
    this.child.kill(signal);
    return this.ended;
  }
}

describe('starting', () => {
  let folder: string;
  // What is started is what was built; it must not be older than what is tested.
  before(() => execFileSync('bash', ['scripts/build.sh', 'node'], { cwd: root }));
  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'clyvo-start-'));
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  /** What it says when it is started within this process, where it does not start. */
  const refusal = (dataFolder: string, port = '0'): Promise<string> =>
    start({ dataFolder, port, webFolder: null, version: '0.0.0', log: pino({ level: 'silent' }) }).then(
      async (clyvo) => {
        await clyvo.stop();
        return 'it started';
      },
      (error: unknown) => (error instanceof StartProblem ? error.message : `no sentence: ${String(error)}`),
    );

  /** It ends with 1, and has said one sentence about it. */
  const refused = async (process: Process, about: RegExp): Promise<void> => {
    expect(await process.ended).to.equal(1);
    expect(process.said.trim().split('\n')).to.have.length(1);
    expect(process.said).to.match(about).and.not.contain('    at ');
  };

  it('says its address; SIGTERM ends it within two seconds, also while a page listens', async () => {
    const clyvo = new Process(folder);
    const address = await clyvo.address();
    const news = await fetch(`${address}/api/news`);
    const begun = performance.now();
    expect(await clyvo.end('SIGTERM')).to.equal(0);
    expect(performance.now() - begun).to.be.lessThan(2000);
    await news.text().catch(() => undefined);
  });

  it('on a folder that cannot be one, or is not to be written, ends with a sentence', async () => {
    const file = join(folder, 'file');
    await writeFile(file, 'tide table');
    await refused(new Process(file), /data folder ".*file" cannot be used/);
    expect(await refusal(join(file, 'inside'))).to.match(/Set CLYVO_DATA to a folder you may write in/);
    expect(await refusal('/dev/null/clyvo')).to.match(/cannot be used/);
  });

  it('on a database that is none, or of a newer version, ends with a sentence and leaves it as it is', async () => {
    await writeFile(join(folder, 'clyvo.sqlite'), 'this is no database, whatever its name says\n'.repeat(100));
    expect(await refusal(folder)).to.match(/database ".*" cannot be read/);
    const other = join(folder, 'newer');
    await mkdir(other);
    const db = openDatabase(other);
    db.pragma('user_version = 99');
    db.close();
    expect(await refusal(other)).to.match(/written by a newer Clyvo/);
  });

  it('on a port that is none, or that another program has, ends with a sentence', async () => {
    for (const port of ['high water', '-1', '65536', '1.5']) expect(await refusal(folder, port)).to.match(/is no port/);
    const other = createServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => other.once('listening', resolve));
    const { port } = other.address() as AddressInfo;
    await refused(new Process(folder, port), /another program uses it/);
    expect(await refusal(folder), 'the folder is free again').to.equal('it started');
    await new Promise((resolve) => other.close(resolve));
  });

  it('a second time on the same folder is refused; after a crash it is not', async () => {
    const first = new Process(folder);
    await first.address();
    await refused(new Process(folder), /already running on the data folder/);
    await first.end('SIGKILL');
    const next = new Process(folder);
    await next.address();
    await next.end('SIGTERM');
  });

  it('sweeps away what an upload left half done when it was killed', async () => {
    await mkdir(join(folder, 'files'));
    await writeFile(join(folder, 'files', 'left-over.part'), 'half a picture');
    expect(await refusal(folder)).to.equal('it started');
    expect(await readdir(join(folder, 'files'))).to.deep.equal([]);
  });
});
