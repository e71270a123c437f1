#!/usr/bin/env node
// Runs the TypeScript sources as they are; tsx only strips the types.
import { register } from 'tsx/esm/api'

register()
await import('./main.ts')
