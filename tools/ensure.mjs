// Set-up on a fresh machine, with nothing but Node and npm: packages of the registry, and Debian's where they are
// missing.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { arePagesFresh, isProgramFresh, ROOT } from './fresh.mjs'

export function run(command, words, options = {}) {
  const result = spawnSync(command, words, { cwd: ROOT, stdio: 'inherit', ...options })
  return result.status ?? 1
}

/** The same without waiting; gives the status when it ends. */
export const runAside = (command, words, options = {}) =>
  new Promise((resolve) => {
    const child = spawn(command, words, { cwd: ROOT, stdio: 'inherit', ...options })
    child.on('error', () => resolve(1))
    child.on('close', (status) => resolve(status ?? 1))
  })

/**
 * Installs the packages that package-lock.json names, unless they stand already. The first promise: they are there,
 * and whatever needs no store may run; `compiled`: the store is there too, which takes one core for a minute or more.
 */
export async function ensurePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex')
  const mark = join(ROOT, 'node_modules', '.vestibule-lock')
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return { compiled: Promise.resolve() }
  console.log('Installing packages (once; the store is compiled, which can take two minutes) …')
  const must = (status) => {
    if (status === 0) return
    console.error('The packages could not be installed: see the lines above.')
    process.exit(1)
  }
  must(await runAside('npm', ['ci', '--no-audit', '--no-fund', '--ignore-scripts']))
  // two thirds of the time of the usual -O3, and no page waits for the store
  const env = { CFLAGS: '-O1', ...process.env }
  const compiled = runAside('npm', ['rebuild'], { env, stdio: ['ignore', 'ignore', 'inherit'] }).then((status) => {
    must(status)
    writeFileSync(mark, lock)
  })
  return { compiled }
}

/** Builds the pages, and the program that serves them, when a source is newer than they are. */
export function ensurePages() {
  const build = (...words) => {
    if (run('npx', ['vite', 'build', '--logLevel', 'warn', ...words]) !== 0) process.exit(1)
  }
  if (!arePagesFresh()) {
    console.log('Building the pages …')
    build()
  }
  if (!isProgramFresh()) build('--config', 'program.config.ts')
}

/** What each test needs of the machine: a file that shows it is there, and Debian's package. */
const DEBIAN = [
  ['/usr/bin/chromium-headless-shell', 'chromium-headless-shell', 'the end-to-end tests'],
  ['/usr/bin/g++', 'g++', 'the firmware tests'],
  ['/usr/bin/mosquitto_sub', 'mosquitto-clients', 'the firmware’s own client against independent ones'],
  ['/usr/sbin/mosquitto', 'mosquitto', 'the test against an independent broker'],
  ['/usr/bin/sigrok-cli', 'sigrok-cli', 'the check of infrared against an independent decoder'],
  ['/usr/bin/ngspice', 'ngspice', 'the check of drive and supply against a circuit simulator'],
  ['/usr/bin/avr-g++', 'gcc-avr', 'compiling for the 8-bit board'],
  ['/usr/lib/avr/include/avr/io.h', 'avr-libc', 'compiling for the 8-bit board'],
  ['/usr/include/simavr/sim_avr.h', 'libsimavr-dev', 'running the 8-bit board on a simulator'],
  ['/usr/include/libelf.h', 'libelf-dev', 'running the 8-bit board on a simulator'],
  ['/usr/bin/pdftotext', 'poppler-utils', 'the check of what is printed'],
  ['/usr/bin/make', 'make', 'building what a maker builds'],
  ['/usr/bin/xtensa-lx106-elf-g++', 'gcc-xtensa-lx106', 'compiling for the single-core Wi-Fi board'],
  ['/usr/lib/picolibc', 'picolibc-riscv64-unknown-elf', 'running the firmware on RISC-V'],
  ['/usr/bin/qemu-system-riscv32', 'qemu-system-misc', 'running the firmware on RISC-V'],
  ['/usr/bin/riscv64-unknown-elf-g++', 'gcc-riscv64-unknown-elf', 'compiling for the RISC-V Wi-Fi board'],
]

/** Installs the Debian packages that are missing, when it may; else says clearly what to install, and goes on. */
export async function ensureMachine() {
  const missing = DEBIAN.filter(([path]) => !existsSync(path))
  if (missing.length === 0) return
  const names = missing.map(([, name]) => name)
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')
  if (mayInstall) {
    console.log(`Installing ${names.join(', ')} from Debian …`)
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
    await runAside('apt-get', ['update', '-qq'], { env })
    await runAside('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...names], {
      env,
      stdio: ['ignore', 'ignore', 'inherit'],
    })
  }
  for (const [path, name, use] of DEBIAN)
    if (!existsSync(path))
      console.error(
        `Missing: ${name}, for ${use}. Install it (Debian: apt-get install ${name}); its tests are skipped or fail.`,
      )
}
