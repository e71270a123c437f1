import { diffLines } from 'diff'
import type { AnswerOf, BuildRow } from '../core/api'
import { imageChanges } from '../core/outputs'
import { testAgain } from '../core/retest'
import type { Site } from '../core/site'
import type { Context } from './context'
import { Refusal } from './refusal'
import { dueRow, siteOfBuild } from './testsDue'

/** Lines around a difference that are shown with it. */
const AROUND = 2
const TABLES = 'image.h'

type Line = AnswerOf<'compareBuilds'>['tables'][number]

/** Lines that differ, with some of what stands around them. */
function tableLines(before: string, after: string): Line[] {
  const lines = diffLines(before, after).flatMap(({ value, added, removed }): Line[] =>
    value
      .replace(/\n$/, '')
      .split('\n')
      .map((line) => ({ sign: added ? '+' : removed ? '-' : ' ', line })),
  )
  const near = (at: number): boolean =>
    lines.slice(Math.max(0, at - AROUND), at + AROUND + 1).some(({ sign }) => sign !== ' ')
  return lines.filter((_, at) => near(at))
}

/** Two builds of one controller, the older first whichever way they are asked for. */
export function compareBuilds(context: Context, one: BuildRow, other: BuildRow): AnswerOf<'compareBuilds'> {
  if (one.siteId !== other.siteId || one.controller !== other.controller)
    throw new Refusal(409, 'other-controller', 'these are builds of two controllers: compare builds of one')
  const { builds } = context.db
  const [before, after] = one.id < other.id ? [one, other] : [other, one]
  const textOf = (build: BuildRow): string =>
    builds.files(build.id).find(({ name }) => name.endsWith(TABLES))?.text ?? ''
  const siteOf = (build: BuildRow): Site => {
    const built = siteOfBuild(context, build.id)
    if (!built)
      throw new Refusal(
        409,
        'old-build',
        `build ${build.number} holds no site that this program reads: make a build again`,
      )
    return built
  }
  const [was, is] = [siteOf(before), siteOf(after)]
  const { again, of } = testAgain(was, is, one.controller)
  return {
    changes: imageChanges(builds.image(before.id), builds.image(after.id), was, is).map((row) => ({ ...row })),
    tables: tableLines(textOf(before), textOf(after)),
    again: again.map(dueRow),
    of,
  }
}
