/**
 * Device time: an unsigned 32-bit count of milliseconds that wraps after 49.7 days. Two instants are compared by their
 * signed difference, which is right as long as they lie less than 2^31 ms apart (serial number arithmetic, RFC 1982).
 */
export const instant = (ms: number): number => ms >>> 0

/** ms from b to a; negative when a is earlier. */
export const difference = (a: number, b: number): number => (a - b) | 0

export const later = (from: number, ms: number): number => (from + ms) >>> 0
