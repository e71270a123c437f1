import jsQR from 'jsqr'

/** Paints the modules of a label as a printer would, and reads what they say. */
export function readBack(svg: string): string | undefined {
  const dark = [...svg.matchAll(/M(\d+) (\d+)h1v1h-1z/g)].map(([, x, y]) => [Number(x), Number(y)] as const)
  const pixels = 4
  const size = (Math.max(...dark.flat()) + 5) * pixels
  const image = new Uint8ClampedArray(size * size * 4).fill(255)
  for (const [x, y] of dark)
    for (let dx = 0; dx < pixels; dx++)
      for (let dy = 0; dy < pixels; dy++) {
        const at = ((y * pixels + dy) * size + x * pixels + dx) * 4
        image.fill(0, at, at + 3)
      }
  return jsQR(image, size, size)?.data
}
