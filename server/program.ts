import type { BuildRow } from '../core/api'
import { boardIn } from '../core/boards'
import { controllerOf } from '../core/site'
import { avrSize, avrSupported, buildAvr, hexOf } from '../firmware/avr'
import { FirmwareRefused } from '../firmware/host'
import { storedSite, type Context } from './context'
import { Refusal } from './refusal'

const refuse = (why: string): Refusal => new Refusal(409, 'not-built-here', why)

/** The program of a build, compiled on this machine: for the 8-bit board, whose compiler may be here. */
export async function programOf(
  context: Context,
  build: BuildRow,
): Promise<{ hex: string; flash: number; memory: number }> {
  const { site } = storedSite(context, build.siteId)
  const controller = controllerOf(site, build.controller)
  const board = controller && boardIn(site, controller.board)
  if (!board || board.port !== 'avr')
    throw refuse('only the program of the 8-bit board is compiled here: follow the flash steps for this board')
  if (controller.link === 'modem')
    throw refuse('a program with a modem holds its secrets: compile it with your own secrets.h, as the flash steps say')
  if (!avrSupported()) throw refuse('no compiler for the 8-bit board on this machine (Debian: gcc-avr, avr-libc, make)')
  try {
    const program = await buildAvr(context.db.builds.image(build.id))
    return { hex: await hexOf(program), ...(await avrSize(program)) }
  } catch (error) {
    throw error instanceof FirmwareRefused ? refuse(error.message.split('\n')[0]!) : error
  }
}
