import { STEPS } from './steps'

type Row = readonly [key: string, what: string]

/** Every key that does something, by where it works. A key that is added anywhere is added here: keys.test.ts asks. */
export const KEYS: readonly (readonly [place: string, keys: readonly Row[]])[] = [
  [
    'Everywhere',
    [
      ...STEPS.map((step): Row => [`g ${step.letter}`, `go to ${step.name}`]),
      ['/', 'find a channel, switch, pin, point or topic'],
      ['u · Ctrl Z', 'undo'],
      ['U · Ctrl Shift Z', 'redo'],
      ['d', 'open or fold the findings'],
      ['F1', 'help on the field'],
      ['?', 'this list'],
    ],
  ],
  ['All sites', [['n', 'new site']]],
  [
    'In a field',
    [
      ['Enter', 'save'],
      ['Esc', 'discard what was typed'],
    ],
  ],
  [
    'Crossbar',
    [
      ['↑ ↓ ← →', 'move to a cell'],
      ['Home · End', 'first or last column'],
      ['Page Up · Page Down', 'ten channels up or down'],
      ['Enter', 'edit the cell (adds a way when it is empty)'],
      ['0 … 9', 'edit the cell’s first field'],
      ['Esc', 'back to the cell, or cancel the selection'],
      ['Delete · Backspace', 'delete the way'],
      ['f', 'fill the column'],
      ['Shift ↑ ↓', 'select several channels'],
      ['Alt ↑ ↓', 'move the channel up or down'],
    ],
  ],
  [
    'Bench',
    [
      ['p', 'plan pins'],
      ['Space, arrows, Space', 'carry a role to another pin'],
      ['+ · −', 'size of the wiring drawing'],
    ],
  ],
  [
    'Trial',
    [
      ['1 … 9', 'press the switch with that number'],
      ['← →', 'turn a selector'],
      ['p', 'pause and play'],
      [', · .', 'previous action, next action'],
      ['+ · −', 'shorter and longer stretch of the time line'],
    ],
  ],
  ['Test run', [['y · n · s', 'passed, failed, skip']]],
]
