import Mocha from 'mocha';

/**
 * On a machine that is busy with other things a test of the interface may fail once: where CI is set it is tried a second
 * time, and said to have been, with what it failed on at first, so that it is mended. What fails again may do so for what the
 * first try left behind: then only the first says why.
 */
const again: [title: string, at: 'passed' | 'failed' | 'pending'][] = [];
/** What tests failed on that are tried again. */
const failures = new Map<string, unknown>();

const { Runner } = Mocha;
const emit = Runner.prototype.emit;
// A runner says it to its reporters alone, and those of several processes are not told what failed.
Runner.prototype.emit = function (this: Mocha.Runner, event: string, ...about: unknown[]): boolean {
  if (event === Runner.constants.EVENT_TEST_RETRY) failures.set((about[0] as Mocha.Test).fullTitle(), about[1]);
  return emit.call(this, event, ...about);
};

export const mochaHooks = {
  afterEach(this: Mocha.Context): void {
    const test = this.currentTest as (Mocha.Test & { currentRetry(): number }) | undefined;
    if (test && test.currentRetry() > 0 && failures.has(test.fullTitle())) again.push([test.fullTitle(), test.state!]);
  },
  afterAll(): void {
    // Two files run at a time, one after the other in each process: this comes at the end of each.
    for (const [title, state] of again.splice(0)) {
      console.log(`    ${state === 'passed' ? 'passed at the second try only' : 'failed at both tries'}: ${title}`);
      const why = failures.get(title);
      console.log(`      the first: ${why instanceof Error ? (why.stack ?? why.message) : String(why)}`);
    }
  },
};
