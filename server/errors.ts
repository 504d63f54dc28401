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

/** Why the server cannot start, in a sentence for the person at the terminal. */
export class StartProblem extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'StartProblem';
  }
}

/** Bytes in the unit a person would use. */
export const megabytes = (bytes: number): string =>
  bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.max(0, Math.round(bytes / 1e6))} MB`;
