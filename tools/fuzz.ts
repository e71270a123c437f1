import { fuzz, shrinkDisagreement, writeTrace } from '../firmware/test/fuzz.testkit'

/**
 * `npm run fuzz -- [--images 40] [--traces 500] [--seed 1000] [--sanitize]`: interpreter against firmware; ends with 1
 * when they differ.
 */
const words = process.argv.slice(2)
const number = (name: string, usual: number): number => {
  const at = words.indexOf(`--${name}`)
  return at < 0 ? usual : Number(words[at + 1])
}
const options = {
  images: number('images', 40),
  tracesPerImage: number('traces', 500),
  seed: number('seed', 1000),
  sanitize: words.includes('--sanitize'),
}

const began = performance.now()
const result = await fuzz({ ...options, progress: (compared) => process.stderr.write(`\r${compared} compared`) })
process.stderr.write('\n')
console.log(
  `${result.compared} traces over ${options.images} ` +
    `images${options.sanitize ? ' under sanitizers' : ''}: ${result.disagreements.length} differ, ` +
    `${result.dangers.length} dangers, ` +
    `${(result.bytes / 1e6).toFixed(1)} MB compared, ${((performance.now() - began) / 1000).toFixed(0)} s`,
)
if (result.dangers.length > 0) {
  console.log(result.dangers.slice(0, 20).join('\n'))
  process.exitCode = 1
}
const first = result.disagreements[0]
if (first) {
  console.log(
    `image ${first.image}, trace ${first.trace}; the shortest trace that still ` +
      `differs:\n${writeTrace(await shrinkDisagreement(first, options))}`,
  )
  process.exitCode = 1
}
