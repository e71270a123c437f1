/** A request that is refused: one clear line, with a code that programs can rely on. */
export class Refusal extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, message: string) {
    super(message)
    this.status = status
    this.code = code
  }
}

export const notFound = (what: string): Refusal => new Refusal(404, 'not-found', `${what} is not here`)
