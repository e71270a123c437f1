/** Inputs into which no letter goes. */
const WITHOUT_LETTERS = new Set(['checkbox', 'radio', 'range', 'button', 'file', 'submit'])

/** Is a person typing there? Then a letter is a letter and no command: in a field, a list, or an editor. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  ((target instanceof HTMLInputElement && !WITHOUT_LETTERS.has(target.type)) ||
    ['SELECT', 'TEXTAREA'].includes(target.tagName) ||
    target.closest('[contenteditable="true"]') !== null)

/** Would a letter typed there be wrong in any case: a field of figures, or a list that would jump to that letter? */
export const takesNoLetter = (target: EventTarget | null): boolean =>
  target instanceof HTMLSelectElement || (target instanceof HTMLInputElement && target.inputMode === 'numeric')
