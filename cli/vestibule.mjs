#!/usr/bin/env node
// Runs the program that was bundled (program.config.ts), unless a source is newer: then the TypeScript sources as they
// are; tsx only strips the types.
import { isProgramFresh } from '../tools/fresh.mjs'

if (isProgramFresh()) await import('../dist/program/main.mjs')
else {
  const { register } = await import('tsx/esm/api')
  register()
  await import('./main.ts')
}
