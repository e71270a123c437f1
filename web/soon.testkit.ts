import { vi } from 'vitest'

/** Until it holds; as long as a busy machine may need. */
export const soon = <T>(check: () => T | Promise<T>): Promise<T> => vi.waitFor(check, { timeout: 20_000 })
