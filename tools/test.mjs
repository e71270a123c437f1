// `npm test`: set up, then lint, unit, firmware and end-to-end tests; ends with "N passed, N failed".
// Parts can be named: `node tools/test.mjs unit firmware`; `--fuzz N` says how many random traces the firmware is held
// against.
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureMachine, ensurePackages, ensurePages, run, runAside } from './ensure.mjs'
import { sourcesInC } from './sources.mjs'

const words = process.argv.slice(2)
const fuzzAt = words.indexOf('--fuzz')
const parts = words.filter((_, i) => fuzzAt < 0 || (i !== fuzzAt && i !== fuzzAt + 1))
// the firmware's own tests play as many random traces as its contract asks; a run of everything plays fewer
const fuzzTraces =
  fuzzAt >= 0 ? Number(words[fuzzAt + 1]) : parts.length === 1 && parts[0] === 'firmware' ? 20_000 : 1_500
if (!Number.isInteger(fuzzTraces) || fuzzTraces < 1) {
  console.error('--fuzz takes a number of traces, as in `npm run firmware -- --fuzz 1000`')
  process.exit(2)
}
process.env.VESTIBULE_FUZZ = String(fuzzTraces)
const wanted = (part) => parts.length === 0 || parts.includes(part)

const [{ compiled }] = await Promise.all([
  ensurePackages(),
  wanted('firmware') || wanted('e2e') || wanted('unit') ? ensureMachine() : undefined,
])

const folder = mkdtempSync(join(tmpdir(), 'vestibule-test-'))
let passed = 0
let failed = 0
let skipped = 0
/** what failed, said once more at the very end, where a reader of a cut log still finds it */
const failures = []

function count(name, report, status) {
  if (!existsSync(report)) {
    failed++
    failures.push(`${name}: no report was written`)
    return
  }
  const data = JSON.parse(readFileSync(report, 'utf8'))
  const numbers =
    'numPassedTests' in data
      ? [data.numPassedTests, data.numFailedTests, data.numPendingTests]
      : [data.stats.expected + data.stats.flaky, data.stats.unexpected, data.stats.skipped]
  passed += numbers[0]
  failed += numbers[1]
  skipped += numbers[2]
  const named = 'testResults' in data ? failedUnits(data) : failedPages(data.suites)
  failures.push(...named.map((test) => `${name}: ${test}`))
  // a file that could not even be loaded has no failed test, but a failed run
  if (status !== 0 && numbers[1] === 0) {
    failed++
    failures.push(`${name}: the run ended with ${status}, no test of it failed`)
  }
}

const failedUnits = ({ testResults }) =>
  testResults.flatMap(({ name: file, status, message, assertionResults }) => {
    const tests = assertionResults.filter((one) => one.status === 'failed')
    if (status === 'failed' && tests.length === 0) return [`${file}: ${message}`]
    return tests.map((one) => `${file}: ${one.fullName}: ${one.failureMessages[0]?.split('\n')[0] ?? ''}`)
  })

const failedPages = (suites) =>
  suites.flatMap(({ file, specs = [], suites: inner = [] }) => [
    ...specs.filter(({ ok }) => !ok).map(({ title }) => `${file}: ${title}`),
    ...failedPages(inner),
  ])

/** Checks that need nothing of each other; two at a time, since a machine of two cores has nothing else to do yet. */
const CHECKS = [
  ['types', 'tsc', '-p', 'tsconfig.json'],
  ['eslint', 'eslint', '.'],
  ['types of the pure core', 'tsc', '-p', 'core/tsconfig.json'],
  ['format', 'prettier', '--check', '--log-level', 'warn', '**/*.{ts,tsx,mjs,js,cjs,css}'],
  ['arrows', 'depcruise', '--config', '.dependency-cruiser.cjs', 'core', 'server', 'web', 'cli', 'firmware'],
  ['format of C++', 'clang-format', '--dry-run', '-Werror', ...sourcesInC()],
]

async function lint() {
  const waiting = [...CHECKS]
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const [name, ...words] = next
      const status = await runAside('npx', ['--no-install', ...words])
      console.log(`lint: ${name}${status === 0 ? '' : ': failed'}`)
      if (status === 0) passed++
      else {
        failed++
        failures.push(`lint: ${name}`)
      }
    }
  }
  await Promise.all([lane(), lane()])
}

function vitest(name, ...folders) {
  const report = join(folder, `${name}.json`)
  count(
    name,
    report,
    run('npx', [
      '--no-install',
      'vitest',
      'run',
      ...folders,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${report}`,
    ]),
  )
}

// no check of these needs the store
if (wanted('lint')) await lint()
await compiled
// what is served, and the program that serves it: tests that start it start the bundle
if (wanted('unit') || wanted('firmware') || wanted('e2e')) ensurePages()
if (wanted('unit')) vitest('unit', 'core/', 'server/', 'cli/', 'web/')
if (wanted('firmware')) vitest('firmware', 'firmware/')
if (wanted('e2e')) {
  const report = join(folder, 'e2e.json')
  count(
    'e2e',
    report,
    run('npx', ['--no-install', 'playwright', 'test'], {
      env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: report },
    }),
  )
}

for (const line of failures) console.log(`failed: ${line}`)
console.log(`${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}`)
process.exit(failed === 0 ? 0 : 1)
