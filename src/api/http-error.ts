/** An answer that is not the result: status, code and message. */
export class HttpError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly details?: unknown,
    readonly headers: Readonly<Record<string, string>> = {},
  ) {
    super(message);
  }
}
