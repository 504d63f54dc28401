/** An error whose sentence is meant for the person at the screen. */
export class UserError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(message);
    this.name = 'UserError';
  }
}

export const notFound = (what: string): UserError => new UserError(404, `There is no such ${what} any more.`);
