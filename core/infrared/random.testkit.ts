/** ±10 % on every duration, and a receiver's stretch of marks at the cost of spaces. */
export const disturbed = (list: readonly number[], random: () => number, stretch: number, jitter = 0.1): number[] =>
  list.map((us, i) =>
    Math.max(1, Math.round(us * (1 + (random() * 2 - 1) * jitter)) + (i % 2 === 0 ? stretch : -stretch)),
  )
