/** Lets work run at once as long as what it needs together fits; the rest waits in the order it came. */
export class Turns {
  private used = 0;
  private readonly waiting: { need: number; go(): void }[] = [];

  constructor(private readonly most: number) {}

  /** Work that needs more than there is runs alone. */
  async take<T>(need: number, work: () => Promise<T>): Promise<T> {
    const bounded = Math.min(need, this.most);
    await new Promise<void>((go) => {
      this.waiting.push({ need: bounded, go });
      this.admit();
    });
    try {
      return await work();
    } finally {
      this.used -= bounded;
      this.admit();
    }
  }

  private admit(): void {
    for (let next = this.waiting[0]; next && this.used + next.need <= this.most; next = this.waiting[0]) {
      this.waiting.shift();
      this.used += next.need;
      next.go();
    }
  }
}
