/** The server's answers, as far as the pages use them. Errors become one line for a person. */

export class Refused extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, message: string) {
    super(message)
    this.status = status
    this.code = code
  }
}

async function answerOf(response: Response): Promise<unknown> {
  const text = await response.text()
  const data: unknown = text.startsWith('{') ? JSON.parse(text) : undefined
  if (response.ok) return data
  const { code = 'unknown', message = `the server answers ${response.status}` } =
    (data as { error?: { code?: string; message?: string } } | undefined)?.error ?? {}
  throw new Refused(response.status, code, message)
}

export async function ask<T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
  revision?: number,
): Promise<T> {
  const headers: Record<string, string> = {}
  if (body !== undefined) headers['Content-Type'] = 'application/json'
  if (revision !== undefined) headers['If-Match'] = `"${revision}"`
  let response: Response
  try {
    response = await fetch(path, { method, headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) })
  } catch {
    throw new Refused(0, 'unreachable', 'the server cannot be reached; what you change now is not kept')
  }
  return (await answerOf(response)) as T
}

export const sitePath = (site: string): string => `/api/sites/${encodeURIComponent(site)}`
