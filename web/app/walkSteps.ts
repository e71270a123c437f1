/** The walk through an example: where it leads, and what is to be seen there. */
export interface WalkStep {
  /** step of the job, with the side */
  readonly path: string
  readonly title: string
  readonly text: string
}

export const WALK: readonly WalkStep[] = [
  {
    path: 'bench',
    title: 'Bench',
    text: 'The board with its real pins. Each channel, switch and part has a pin; “Plan pins” assigns the free ones and says why. Pick a role to see everything about it.',
  },
  {
    path: 'bench?side=contacts',
    title: 'Loads and contacts',
    text: 'Each contact against its load, with the calculation and its source. Supply, start-up and wiring are worked out the same way.',
  },
  {
    path: 'ways',
    title: 'Ways in',
    text: 'One line per channel, one column per way: switch, remote, app, hub, voice, links, rules. Pick a cell to see the whole path; “fill” fills a column.',
  },
  {
    path: 'ways?side=services',
    title: 'Services',
    text: 'What the app service, hub and voice service need: points, keys, limits, and the steps to set them up.',
  },
  {
    path: 'build',
    title: 'Build',
    text: 'Firmware tables, connection list, service sheet and flash steps, written from this one site. Open findings of danger or error stop a build until they are fixed or accepted.',
  },
  {
    path: 'trial',
    title: 'Trial',
    text: 'The same firmware in a simulated house. Press a switch, tap the phone, break the Wi-Fi, and see who is still in control and what each screen shows.',
  },
  {
    path: 'whatif',
    title: 'What if',
    text: 'Who can still work each channel when something fails, which two failures matter, and what to change. The other way round: say what you see, and find the fault.',
  },
  {
    path: 'handover',
    title: 'Handover',
    text: 'Which boards are on the network and what they run. A test run leads through the safe order (controller alone, relays with no load, load) and ticks itself by what the board says.',
  },
  {
    path: 'logbook',
    title: 'Logbook',
    text: 'What was built, flashed, tried, tested and found, each entered by itself; upkeep says which contact, battery or check is due.',
  },
]
