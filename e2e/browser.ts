import { existsSync } from 'node:fs'

const WITHOUT_WINDOWS = '/usr/bin/chromium-headless-shell'

/** Debian's Chromium, as tests and pictures start it: where it is there, the one without windows, which is faster. */
export const BROWSER = {
  executablePath: existsSync(WITHOUT_WINDOWS) ? WITHOUT_WINDOWS : '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}
