import { expose } from 'comlink'
import { playYears, type Years, type YearsOptions } from '../../core/broken'
import { worthOf, type Worth } from '../../core/changes'
import { faultTable, type FaultTable } from '../../core/diagnosis'
import {
  Asker,
  detailOf,
  faultsOf,
  houseHours,
  pairsThatMatter,
  whoIsLeft,
  type ChannelFaults,
  type FaultDetail,
  type Question,
  type Together,
  type WhoIsLeft,
} from '../../core/faults'
import type { Place } from '../../core/parts'
import { channelOf, type Site } from '../../core/site'

/** What failures do to a house: worked out beside the page, which stays in the hand. */
const jobs = {
  left(site: Site, question: Question, from: Place): Left {
    const asker = new Asker(site)
    const faults = faultsOf(site, [question], [from], asker)
    return {
      left: whoIsLeft(site, question, from, asker),
      faults,
      pairs: pairsThatMatter(site, faults),
      houseHours: houseHours(site, question, from, asker),
    }
  },
  detail: (site: Site, question: Question, channel: string, from: Place): FaultDetail =>
    detailOf(site, question, channelOf(site, channel)!, from),
  changes: (site: Site, question: Question, channel: string, from: Place): Worth[] =>
    worthOf(site, question, channelOf(site, channel)!, from),
  years: (site: Site, options: YearsOptions, onProgress: (done: number) => void): Years =>
    playYears(site, { ...options, onProgress: (done) => onProgress(done) })!,
  faultTable: (site: Site, channel: string, onProgress: (done: number) => void): FaultTable =>
    faultTable(site, channelOf(site, channel)!, onProgress),
}

/** The whole table of a question, with the hours of each channel and the pairs. */
export interface Left {
  readonly left: WhoIsLeft
  readonly faults: readonly ChannelFaults[]
  readonly pairs: readonly Together[]
  readonly houseHours: number
}
export type WhatIfJobs = typeof jobs

expose(jobs)
