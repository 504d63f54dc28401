import { expect } from 'chai';
import { PlayClock } from './play-clock.ts';

/** A machine whose clock and sound are moved by hand. */
class Machine {
  time = 100;
  /** Seconds its sound has run; it may stand still while the time goes on. */
  sound = 0;
  running = true;
  latency = 0;
  /** What had been played when each voice began, and how many have ended. */
  begun: number[] = [];
  ended = 0;

  readonly clock = new PlayClock(
    () => this.time,
    async (played) => {
      await Promise.resolve();
      this.begun.push(played());
      const began = this.sound;
      return {
        heard: () => (this.running ? this.sound - began - this.latency : null),
        stop: () => (this.ended += 1),
      };
    },
  );

  /** What the clock says after each of so many seconds in steps of a hundredth, in which the sound runs at a speed. */
  pass(seconds: number, speed = 1): number {
    let last = 0;
    for (let k = 0; k < Math.round(seconds * 100); k++) {
      this.time += 0.01;
      this.sound += 0.01 * speed;
      last = this.played();
    }
    return last;
  }

  played(): number {
    return this.clock.passed((reason) => expect.fail(String(reason)));
  }

  /** What the picture is at, by what is heard of the voice that began last. */
  heardNow(began: number): number {
    return this.begun.at(-1)! + this.sound - began - this.latency;
  }
}

const settled = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

describe('clock of what is played', () => {
  it('is the machine’s while nothing is heard', () => {
    expect(new Machine().pass(2)).to.be.closeTo(2, 1e-6);
  });

  it('follows the sound once it is heard, also one that runs slower', async () => {
    const machine = new Machine();
    machine.pass(0.3);
    await machine.clock.follow();
    expect(machine.begun[0]).to.be.closeTo(0.3, 1e-6);
    expect(machine.pass(2, 0.9)).to.be.closeTo(0.3 + 1.8, 1e-6);
    expect(machine.begun).to.have.length(1);
  });

  it('waits until the sound comes out, however long its way is', async () => {
    const machine = new Machine();
    machine.latency = 0.8;
    await machine.clock.follow();
    expect(machine.pass(0.7)).to.equal(0);
    expect(machine.pass(1)).to.be.closeTo(0.9, 1e-6);
    expect(machine.begun).to.have.length(1);
  });

  it('never goes back, nor does a short stop of the sound let the two part', async () => {
    const machine = new Machine();
    await machine.clock.follow();
    machine.pass(1);
    const before = machine.played();
    machine.pass(0.4, 0);
    expect(machine.played()).to.equal(before);
    machine.latency = 0.02;
    machine.pass(0.01);
    expect(machine.played()).to.be.at.least(before);
    expect(machine.pass(1)).to.be.closeTo(1.99, 1e-6);
  });

  it('goes on by itself while the sound stands, and lets it join where the picture is', async () => {
    const machine = new Machine();
    await machine.clock.follow();
    machine.pass(1);
    expect(machine.pass(2, 0)).to.be.closeTo(3, 0.011);
    expect(machine.begun).to.have.length(1);
    // It is heard again: a new voice, from where the picture is by then.
    const began = machine.sound + 0.01;
    machine.pass(0.01);
    await settled();
    expect(machine.ended).to.equal(1);
    expect(machine.begun[1]).to.be.closeTo(3.01, 0.011);
    const played = machine.pass(1, 0.9);
    expect(played).to.be.closeTo(machine.heardNow(began), 1e-6);
    expect(machine.begun).to.have.length(2);
  });

  it('lets it join also after the machine took the sound away for a moment', async () => {
    const machine = new Machine();
    await machine.clock.follow();
    machine.pass(1);
    machine.running = false;
    expect(machine.pass(0.2, 0)).to.be.closeTo(1.2, 0.011);
    machine.running = true;
    machine.pass(0.01);
    await settled();
    expect(machine.begun[1]).to.be.closeTo(1.21, 0.011);
  });

  it('lets nothing be heard that comes after its end', async () => {
    const machine = new Machine();
    const late = machine.clock.follow();
    machine.clock.stop();
    await late;
    expect(machine.ended).to.equal(1);
  });
});
